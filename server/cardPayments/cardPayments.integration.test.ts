import { afterAll, beforeAll, expect, describe, it } from 'vitest';
import {
  SETTLEMENTS_PAGE,
  type CardPage,
  type SettlementRow,
  type TerminalRow,
} from '../../contract/cardPayments.ts';
import { eventually } from '../../contract/testing/eventually.ts';
import { verify } from '../books/verify.ts';
import { standIn, take, tap, tenderFor, typesByKind, view } from '../testing/paying.ts';
import { giveBack, linesBack } from '../testing/returning.ts';
import { ENGINE, openDrawer, openHouse, ringUp, type Browser, type TestHouse } from '../testing/testHouse.ts';

let house: TestHouse;
let isolde: Browser;
let cardId = 0;
beforeAll(async () => {
  house = await openHouse();
  isolde = house.browser();
  await isolde.signIn('8024', 1);
  await openDrawer(isolde);
  cardId = (await typesByKind(house)).get('card') ?? 0;
});
afterAll(() => house.stop());

/** Sells something for a card. @returns the sale's id and total */
async function sellByCard(number: string): Promise<{ id: string; total: number }> {
  const sale = await ringUp(house, [number]);
  await take(isolde, tenderFor(sale, cardId));
  tap(standIn(house));
  await eventually(async () => {
    expect((await view(isolde, sale)).body.finished).toBeTruthy();
  });
  return { id: sale.basket.id, total: sale.expectedTotal };
}
const listed = async (query = '') =>
  (await isolde.ask<CardPage>('GET', `/card-payments/payments?${query}`)).body;
const unsettled = async () =>
  (await isolde.ask<TerminalRow[]>('GET', '/card-payments/terminals')).body.map((one) => one.unsettled);
const amounts = async () => (await listed()).rows.map(({ amount }) => amount).toSorted((a, b) => a - b);

describe(`the list of card payments on ${ENGINE}`, () => {
  it('shows what went back to a card as that, and what the bank owes after it', async () => {
    const dear = await sellByCard('MET-C');
    const cheap = await sellByCard('PIC-M');
    expect(await listed()).toMatchObject({ count: 2, total: dear.total + cheap.total });
    expect(await unsettled()).toContain(dear.total + cheap.total);
    const { lines, refund } = await linesBack(isolde, cheap.id, [{ position: 1, quantity: 1000 }]);
    const back = await giveBack(isolde, { id: crypto.randomUUID(), lines }, 0 - refund);
    expect(back.body.finished).toBeTruthy();
    expect(await amounts()).toEqual([0 - refund, cheap.total, dear.total]);
    expect(await listed()).toMatchObject({ count: 3, total: dear.total + cheap.total - refund });
    expect(await unsettled()).toContain(dear.total + cheap.total - refund);
  });

  it('is narrowed down by card, approval, reference, day, state and kind', async () => {
    const { rows } = await listed();
    const one = rows.find(({ amount }) => amount > 0);
    if (!one) throw new Error('no card payment is listed');
    const { id, lastFour, approval, cardKind, state } = one;
    const today = one.at.slice(0, 10);
    const ids = async (query: string) => (await listed(query)).rows.map((row) => row.id);
    expect(await ids(`find=${approval}`)).toEqual([id]);
    for (const find of [id, id.slice(0, 8), id.slice(0, 13).toUpperCase()])
      expect(await ids(`find=${find}`)).toEqual([id]);
    expect(await listed(`find=${lastFour}`)).toMatchObject({ count: rows.length });
    for (const query of ['find=0000000', 'find=zz-top', 'to=2001-01-01', 'from=2999-01-01', 'state=declined'])
      expect([query, await listed(query)]).toEqual([query, { rows: [], count: 0, total: 0 }]);
    for (const query of [`state=${state}`, `kind=${cardKind}`, `from=${today}`, `to=${today}`])
      expect([query, await ids(query)]).toEqual([query, rows.map((row) => row.id)]);
  });

  it('says what the bank has paid out, which it owes no more', async () => {
    const [terminal] = (await isolde.ask<TerminalRow[]>('GET', '/card-payments/terminals')).body;
    const due = terminal?.unsettled ?? 0;
    const paid = await isolde.ask<{ gross: number; count: number }>(
      'POST',
      `/card-payments/terminals/${terminal?.id}/settle`,
    );
    expect(paid.body).toMatchObject({ gross: due, count: 3 });
    expect(await unsettled()).not.toContain(due);
    expect((await listed()).rows.every(({ settled }) => settled !== null)).toBe(true);
    expect(await house.house.database.ask(verify)).toEqual([]);
  });

  it('has its settlements told from the newest on, as far back as they go', async () => {
    await house.house.database.write((sql) =>
      sql.query(
        `insert into settlement (terminal_id, batch, at, gross, fees, count, staff_id)
         select terminal_id, 'earlier ' || nth, at, 0, 0, 0, staff_id
         from settlement, generate_series(1, ${SETTLEMENTS_PAGE}) as nth`,
      ),
    );
    const told = async (before: number) =>
      (await isolde.ask<SettlementRow[]>('GET', `/card-payments/settlements?before=${before}`)).body;
    const newest = await told(0);
    expect(newest.map(({ batch }) => batch)[0]).toBe(`earlier ${SETTLEMENTS_PAGE}`);
    const next = await told(newest.at(-1)?.id ?? 0);
    expect([newest.length, next.length, next[0]?.gross]).not.toContain(0);
    expect(await told(next.at(-1)?.id ?? 0)).toEqual([]);
    expect(new Set([...newest, ...next].map(({ id }) => id)).size).toBe(SETTLEMENTS_PAGE + 1);
  });
});
