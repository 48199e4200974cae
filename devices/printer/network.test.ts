import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { STAND_IN, type PrinterSetup } from '../../core/journal/printerSetup.ts';
import type { PrinterJob } from './driver.ts';
import { networkPrinter } from './network.ts';
import { rawPrinter, type RawPrinter } from './testing/rawPrinter.ts';

const patience = { answer: 300, look: 20 };
let raw: RawPrinter;
beforeEach(async () => {
  raw = await rawPrinter();
});
afterEach(() => raw.stop());

const setup = (): PrinterSetup => ({ ...STAND_IN, kind: 'network', host: '127.0.0.1', port: raw.port });
const job = (id: number, text: string, changed: Partial<PrinterSetup> = {}): PrinterJob => ({
  id,
  printer: 'till-1',
  setup: { ...setup(), ...changed },
  paper: { title: text, rows: [{ kind: 'text', text }] },
  text,
  openDrawer: false,
});

/** Prints and says what was told on the way. */
async function print(
  which: PrinterJob,
  onTrouble: (words: string) => void = () => {},
  ending = new AbortController(),
) {
  let begun = false;
  const troubles: string[] = [];
  const error = await networkPrinter(patience)
    .print(which, {
      begins() {
        begun = true;
        return Promise.resolve();
      },
      trouble(words) {
        troubles.push(words);
        onTrouble(words);
      },
      ending: ending.signal,
    })
    .then(
      () => undefined,
      (reason: Error) => reason.message,
    );
  return { begun, troubles, error };
}

describe('a printer on the network', () => {
  it('prints, and is believed when it says that the paper is out', async () => {
    expect(await print(job(1, 'Receipt 1-0001'))).toEqual({ begun: true, troubles: [], error: undefined });
    expect(raw.papers).toHaveLength(1);
    expect(raw.papers[0]).toContain('Receipt 1-0001');
    expect(raw.papers[0]).toContain('\u001dV');
  });

  it.each([
    [{ paperOut: true }, 'The printer is out of paper.'],
    [{ coverOpen: true }, 'The cover of the printer is open.'],
    [{ mute: true }, /does not answer/],
  ])('says before anything is printed what is wrong: %j', async (state, words) => {
    raw.set(state);
    const { begun, error } = await print(job(1, 'Receipt'));
    expect(begun).toBe(false);
    expect(error).toMatch(words);
    expect(raw.papers).toEqual([]);
  });

  it('says that it is off', async () => {
    const off = job(1, 'Receipt');
    await raw.stop();
    const { begun, error } = await print(off);
    expect(begun).toBe(false);
    expect(error).toMatch(/cannot be reached. Is it on\?/);
    raw = await rawPrinter();
  });

  it('waits for paper in the middle of a receipt, says so, and prints it once', async () => {
    raw.set({ runsOutAfter: 20 });
    const { troubles, error } = await print(job(1, 'A long line on a receipt'), () =>
      raw.set({ paperOut: false }),
    );
    expect(error).toBeUndefined();
    expect(troubles).toContain('The printer is out of paper.');
    expect(raw.papers).toHaveLength(1);
    expect(raw.papers[0]).toContain('A long line on a receipt');
  });

  it('says when it was cut off after the paper had begun', async () => {
    raw.set({ cutAfter: 12 });
    const { begun, error } = await print(job(1, 'A receipt that is cut off'));
    expect(begun).toBe(true);
    expect(error).toMatch(/broke off/);
  });

  it('is not waited for when the server stops', async () => {
    raw.set({ runsOutAfter: 20 });
    const ending = new AbortController();
    const { begun, error } = await print(job(1, 'A long line on a receipt'), () => ending.abort(), ending);
    expect(begun).toBe(true);
    expect(error).toMatch(/broke off/);
  });

  it('that another paper is waited for does not begin when the server stops', async () => {
    raw.set({ runsOutAfter: 20 });
    const driver = networkPrinter(patience);
    const ending = new AbortController();
    const begun: number[] = [];
    const printOn = (id: number) =>
      driver
        .print(job(id, 'A long line on a receipt'), {
          begins: () => Promise.resolve(void begun.push(id)),
          trouble: () => ending.abort(),
          ending: ending.signal,
        })
        .catch((error: Error) => error.message);
    expect(await Promise.all([printOn(1), printOn(2)])).toEqual([
      expect.stringContaining('broke off'),
      expect.stringContaining('abort'),
    ]);
    expect(begun).toEqual([1]);
  });

  it('sends what one that says nothing is trusted to print', async () => {
    const { begun, error } = await print(job(1, 'Trusted', { answers: false }));
    expect({ begun, error }).toEqual({ begun: true, error: undefined });
    await expect.poll(() => raw.papers.join('')).toContain('Trusted');
  });

  it('prints one paper after the other, whichever tills ask', async () => {
    const driver = networkPrinter(patience);
    const progress = {
      begins: () => Promise.resolve(),
      trouble: () => {},
      ending: new AbortController().signal,
    };
    await Promise.all([1, 2, 3, 4].map((id) => driver.print(job(id, `Paper ${id}`), progress)));
    expect(raw.papers.map((text) => /Paper \d/.exec(text)?.[0])).toEqual([
      'Paper 1',
      'Paper 2',
      'Paper 3',
      'Paper 4',
    ]);
  });

  it('has as many columns as it is wide, and neither knife nor pulse where it has none', async () => {
    const rule = { title: '', rows: [{ kind: 'rule' as const }] };
    const narrow = { ...job(1, ''), paper: rule, openDrawer: true };
    await print({ ...narrow, setup: { ...narrow.setup, columns: 32, cutter: false, pulse: false } });
    expect(raw.papers[0]).toContain('-'.repeat(32));
    expect(raw.papers[0]).not.toContain('-'.repeat(33));
    expect(raw.papers[0]).not.toContain('\u001dV');
    expect(raw.papers[0]).not.toContain('\u001bp');
  });
});
