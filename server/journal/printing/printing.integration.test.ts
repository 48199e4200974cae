import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { eventually } from '../../../contract/testing/eventually.ts';
import type { PrinterFacts, TillPrinter } from '../../../contract/printer.ts';
import { STAND_IN, type PrinterSetup } from '../../../core/journal/printerSetup.ts';
import { rawPrinter, type RawPrinter } from '../../../devices/printer/testing/rawPrinter.ts';
import { openDrawer, openHouse, pay, ringUp, type Browser, type TestHouse } from '../../testing/testHouse.ts';

let house: TestHouse;
let manager: Browser;
let second: Browser;
let raw: RawPrinter;

const TILLS = [1, 2] as const;

beforeAll(async () => {
  house = await openHouse();
  [manager, second] = [house.browser(), house.browser()];
  await manager.signIn('8024', 1);
  await second.signIn('2468', 2);
  await openDrawer(manager);
  await openDrawer(second);
});
afterAll(() => house.stop());
beforeEach(async () => {
  raw = await rawPrinter();
});
afterEach(async () => {
  for (const till of TILLS) await choose(STAND_IN, till);
  await eventually(async () => expect(await waiting()).toEqual([0, 0]));
  await raw.stop();
});

const network = (): PrinterSetup => ({ ...STAND_IN, kind: 'network', host: '127.0.0.1', port: raw.port });
const choose = (setup: PrinterSetup, till = 1) => manager.ask('PUT', `/printer/tills/${till}`, setup);
const state = async (who = manager) => (await who.ask<PrinterFacts>('GET', '/printer/state')).body;
const settle = (id: number, as: string, who = manager) => who.ask('POST', `/printer/jobs/${id}`, { as });
const sell = async (who = manager) => {
  const { status, body } = await pay(who, await ringUp(house, ['REE-BC-25']));
  expect(status).toBe(200);
  return body.number;
};
async function waiting(): Promise<number[]> {
  const { body } = await manager.ask<TillPrinter[]>('GET', '/printer/tills');
  return body.map((till) => till.waiting).slice(0, TILLS.length);
}
const until = (check: () => Promise<void>) => eventually(check);
const papersWith = (text: string) => raw.papers.filter((paper) => paper.includes(text));

describe('a printer on the network', () => {
  it('prints the receipts of the till that has it, and a test page', async () => {
    expect((await choose({ ...network(), columns: 32 })).status).toBe(200);
    const number = await sell();
    await until(async () => expect((await state()).open).toEqual([]));
    expect(papersWith(number)).toHaveLength(1);
    expect(raw.papers[0]).toContain('\u001bp');
    expect((await manager.ask('POST', '/printer/tills/1/test')).status).toBe(200);
    await until(async () => expect((await state()).open).toEqual([]));
    expect(raw.papers[1]).toContain('32 columns');
    expect(raw.papers[1]).toContain('12345678901234567890123456789012\n');
  });

  it('that has no paper says so at the till, holds up no other, and prints all once it has some', async () => {
    raw.set({ paperOut: true });
    await choose(network());
    const numbers = [await sell(), await sell()];
    await until(async () => expect((await state()).trouble).toBe('The printer is out of paper.'));
    expect((await state()).open.map(({ words, state: is }) => [words, is])).toEqual(
      numbers.map((number) => [`Receipt ${number}`, 'waiting']),
    );
    await sell(second);
    await until(async () => expect((await state(second)).open).toEqual([]));
    expect((await state(second)).trouble).toBeNull();
    raw.set({ paperOut: false });
    house.house.printing.wake();
    await until(async () => expect((await state()).open).toEqual([]));
    expect((await state()).trouble).toBeNull();
    for (const number of numbers) expect(papersWith(number)).toHaveLength(1);
  });

  it('that is off keeps receipts through a restart of the server', async () => {
    await choose(network());
    await raw.stop();
    const number = await sell();
    await until(async () => expect((await state()).trouble).toMatch(/cannot be reached/));
    await house.restart();
    const { port } = raw;
    raw = await rawPrinter(port);
    house.house.printing.wake();
    await until(async () => expect((await state()).open).toEqual([]));
    expect(papersWith(number)).toHaveLength(1);
  });

  it('that is cut off leaves a paper in doubt, which only a person prints again', async () => {
    await choose(network());
    raw.set({ cutAfter: 200 });
    const number = await sell();
    await until(async () => expect((await state()).open[0]?.state).toBe('doubtful'));
    const next = await sell();
    await until(async () => expect(papersWith(next)).toHaveLength(1));
    const [doubt] = (await state()).open;
    expect(doubt?.words).toBe(`Receipt ${number}`);
    // Not at another till, and not twice.
    expect((await settle(doubt?.id ?? 0, 'again', second)).status).toBe(409);
    const settled = await Promise.all([settle(doubt?.id ?? 0, 'again'), settle(doubt?.id ?? 0, 'again')]);
    expect(settled.map(({ status }) => status).sort()).toEqual([200, 409]);
    await until(async () => expect((await state()).open).toEqual([]));
    const [again] = papersWith(number).slice(-1);
    // The customer's change is long given: the drawer stays shut.
    expect(again).not.toContain('\u001bp');
  });

  it('that stops in the middle when the server ends leaves a paper in doubt that came out', async () => {
    await choose(network());
    raw.set({ runsOutAfter: 100 });
    await sell();
    await until(async () => expect((await state()).trouble).toBe('The printer is out of paper.'));
    await house.restart();
    house.house.printing.wake();
    await until(async () => expect((await state()).open[0]?.state).toBe('doubtful'));
    const before = raw.papers.length;
    expect((await settle((await state()).open[0]?.id ?? 0, 'printed')).status).toBe(200);
    expect((await state()).open).toEqual([]);
    expect(raw.papers.length).toBe(before);
  });

  it('may be given up: what nobody needs any more is not printed', async () => {
    raw.set({ paperOut: true });
    await choose(network());
    const number = await sell();
    await until(async () => expect((await state()).trouble).not.toBeNull());
    expect((await settle((await state()).open[0]?.id ?? 0, 'dropped')).status).toBe(200);
    raw.set({ paperOut: false });
    const next = await sell();
    await until(async () => expect(papersWith(next)).toHaveLength(1));
    expect(papersWith(number)).toEqual([]);
  });

  it('says when a paper cannot be made, and goes on once it is given up', async () => {
    const sale = await ringUp(house, ['REE-BC-25']);
    await pay(manager, sale);
    await until(async () => expect((await state()).open).toEqual([]));
    // The slip of a void that there never was.
    await house.house.database.ask((sql) =>
      sql.query(
        "insert into print_job (till_id, kind, sale_id, asked_at) values (1, 'void-slip', $1, now())",
        [sale.basket.id],
      ),
    );
    house.house.printing.wake();
    await until(async () => expect((await state()).trouble).toContain('not voided'));
    await choose(network());
    const next = await sell();
    expect((await settle((await state()).open[0]?.id ?? 0, 'dropped')).status).toBe(200);
    await until(async () => expect(papersWith(next)).toHaveLength(1));
    await until(async () => expect((await state()).trouble).toBeNull());
  });

  it('is chosen by who sets up the shop, with an address', async () => {
    expect((await second.ask('PUT', '/printer/tills/1', network())).status).toBe(403);
    expect((await choose({ ...network(), host: '' })).body).toMatchObject({
      fields: [{ field: 'host', message: expect.stringContaining('192.168.1.50') as string }],
    });
    expect((await choose({ ...network(), host: 'a b' })).status).toBe(422);
    expect((await choose({ ...network(), columns: 40 as never })).status).toBe(422);
    expect((await choose(network(), 99)).status).toBe(404);
    expect((await manager.ask('POST', '/printer/tills/99/test')).status).toBe(404);
  });
});
