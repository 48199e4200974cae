import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { JournalPage } from '../../contract/journal.ts';
import { useJournalStore } from './journalStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn(), writeSurely: vi.fn() }));
vi.mock('../net/api.ts', () => net);

const page = (ids: string[], next: string | null = null) =>
  ({ rows: ids.map((id) => ({ id })), next, counted: { count: ids.length } }) as unknown as JournalPage;
const asked = () => net.read.mock.calls.map((call): unknown => call[0]);

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of [net.read, net.write, net.writeSurely]) one.mockReset();
});

describe('the list of sales', () => {
  it('is asked for by what was chosen, and goes on where it ended', async () => {
    const journal = useJournalStore();
    Object.assign(journal.filter, { find: ' reeds ', tillId: 2 });
    net.read.mockResolvedValueOnce(page(['s1', 's2'], 'n2')).mockResolvedValueOnce(page(['s3']));
    await journal.load();
    await journal.more();
    expect(asked()).toEqual([
      '/journal/sales?find=reeds&tillId=2',
      '/journal/sales?find=reeds&tillId=2&next=n2',
    ]);
    expect(journal.rows?.map(({ id }) => id)).toEqual(['s1', 's2', 's3']);
    // The end was reached.
    await journal.more();
    expect(asked()).toHaveLength(2);
    journal.clear();
    net.read.mockResolvedValueOnce(page([]));
    await journal.load();
    expect(asked().at(-1)).toBe('/journal/sales?');
  });

  it('is that of the last question, whatever is answered first', async () => {
    const journal = useJournalStore();
    let late = (_page: JournalPage): void => {};
    net.read.mockReturnValueOnce(new Promise<JournalPage>((come) => (late = come)));
    const first = journal.load();
    net.read.mockResolvedValueOnce(page(['s9']));
    await journal.load();
    late(page(['s1']));
    await first;
    expect(journal.rows?.map(({ id }) => id)).toEqual(['s9']);
  });

  it('is read again as far as somebody has looked, when something is sold meanwhile', async () => {
    const journal = useJournalStore();
    const answers = new Map([
      ['/journal/sales?', page(['s5', 's4'], 'n4')],
      ['/journal/sales?next=n4', page(['s3', 's2'], 'n2')],
      ['/journal/sales?next=n2', page(['s1', 's0'])],
    ]);
    net.read.mockImplementation((path: string) => Promise.resolve(answers.get(path)));
    net.read.mockResolvedValueOnce(page(['s4', 's3'], 'n3')).mockResolvedValueOnce(page(['s2', 's1'], 'n1'));
    await journal.load();
    // Older ones are asked for, and a sale comes in.
    const both = [journal.more(), journal.loadAgain()];
    await both[0];
    expect(journal.rows?.map(({ id }) => id)).toEqual(['s4', 's3', 's2', 's1']);
    await both[1];
    expect(journal.rows?.map(({ id }) => id)).toEqual(['s5', 's4', 's3', 's2']);
    await journal.more();
    expect(journal.rows?.map(({ id }) => id)).toEqual(['s5', 's4', 's3', 's2', 's1', 's0']);
  });

  it('is narrowed by an address that leads here, and stays as it is without one', () => {
    const journal = useJournalStore();
    journal.choose({ from: '2026-02-01', to: '2026-02-28', tillId: '3', kind: 'return', find: 4 });
    expect(journal.filter).toEqual({
      find: '',
      from: '2026-02-01',
      to: '2026-02-28',
      tillId: 3,
      staffId: null,
      typeId: null,
      kind: 'return',
    });
    journal.choose({ other: 'x' });
    expect(journal.filter.from).toBe('2026-02-01');
  });
});

describe('one sale', () => {
  it('is read, read again after a note, and put away', async () => {
    const journal = useJournalStore();
    net.read.mockResolvedValue({ id: 's1' });
    await journal.open('s1');
    expect(journal.sale).toEqual({ id: 's1' });
    await journal.addNote('s1', 'Collected by her brother');
    expect(net.writeSurely).toHaveBeenCalledWith('POST', '/journal/sales/s1/notes', {
      note: 'Collected by her brother',
    });
    expect(asked()).toEqual(['/journal/sales/s1', '/journal/sales/s1']);
    await journal.open(undefined);
    expect(journal.sale).toBeNull();
  });

  it('does not come back in the place of another one when its note took longer', async () => {
    const journal = useJournalStore();
    net.read.mockImplementation((path: string) => Promise.resolve({ id: path.split('/').at(-1) }));
    await journal.open('s1');
    let written = (_: object): void => {};
    net.writeSurely.mockReturnValueOnce(new Promise((come) => (written = come)));
    const noted = journal.addNote('s1', 'Collected by her brother');
    const opened = journal.open('s2');
    written({});
    await Promise.all([noted, opened]);
    expect(journal.sale).toEqual({ id: 's2' });
  });

  it('that was opened last is shown, whatever is answered first', async () => {
    const journal = useJournalStore();
    let late = (_sale: object): void => {};
    net.read.mockReturnValueOnce(new Promise((come) => (late = come)));
    const first = journal.open('s1');
    net.read.mockResolvedValueOnce({ id: 's2' });
    await journal.open('s2');
    late({ id: 's1' });
    await first;
    expect(journal.sale).toEqual({ id: 's2' });
  });

  it('is the last one of a till, if there is one', async () => {
    const journal = useJournalStore();
    net.read.mockResolvedValueOnce(page(['s4', 's3'])).mockResolvedValueOnce(page([]));
    expect((await journal.lastOn(2))?.id).toBe('s4');
    expect(await journal.lastOn(3)).toBeUndefined();
  });
});
