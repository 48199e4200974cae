import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FinishedSale } from '../../contract/counter.ts';
import type { KeptOffer } from '../../contract/offers.ts';
import type { CustomerPage } from '../../contract/people.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { SetupFacts } from '../../contract/setup.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { verify } from '../books/verify.ts';
import { addSomebody } from '../testing/people.ts';
import { bringBack, linesBack } from '../testing/returning.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../testing/testHouse.ts';
import { endPoints } from './loyaltyStore.ts';

let test: TestHouse;
let noor: Browser;
let maren: Browser;
let isolde: Browser;
beforeAll(async () => {
  test = await openHouse();
  [noor, maren, isolde] = [test.browser(), test.browser(), test.browser()];
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  await maren.signIn('3690', 2);
  await openDrawer(maren);
  await isolde.signIn('8024', 3);
});
afterAll(() => test.stop());

const GOODS = ['CAR-SO', 'REC-SO', 'STA-FOLD-BK'];
type Sale = Parameters<typeof pay>[1];
let made = 0;
async function somebody(points = 0): Promise<number> {
  made += 1;
  const id = await addSomebody(noor, `Member ${made}`);
  if (points > 0) await correct(id, points);
  return id;
}
const correct = (id: number, amount: number, by = isolde) =>
  by.ask<ProblemDetails>('POST', `/people/customers/${id}/points`, { amount, words: 'a present' });
const look = async (id: number) => (await noor.ask<CustomerPage>('GET', `/people/customers/${id}/page`)).body;
const pointsOf = async (id: number) => (await look(id)).panel.points;
const join = (id: number, sale: string, by = noor) =>
  by.ask<{ earned: number } & ProblemDetails>('POST', `/people/customers/${id}/points/sales`, { sale });
async function buy(
  customerId: number | null,
  numbers: readonly string[] = GOODS,
  more: Partial<Basket> = {},
  by = noor,
): Promise<FinishedSale> {
  const sale = await ringUp(test, numbers);
  const customer = customerId === null ? undefined : { id: customerId, name: 'Member' };
  const basket = { ...sale.basket, customer, ...more };
  const first = await pay(by, { ...sale, basket, expectedTotal: 1, handed: 100_000 });
  const { total } = (first.body as unknown as { data: { priced: { total: number } } }).data.priced;
  const { status, body } = await pay(by, { ...sale, basket, expectedTotal: total, handed: total });
  expect([status, body]).toEqual([200, expect.anything()]);
  return body;
}
async function programme(change: object): Promise<void> {
  const { points } = (await isolde.ask<SetupFacts>('GET', '/setup/facts')).body;
  const { status, body } = await isolde.ask('PUT', '/setup/points', { ...points, ...change });
  expect([status, body]).toEqual([200, expect.anything()]);
}
const everythingTiesOut = async () => expect(await test.house.database.ask(verify)).toEqual([]);
/** What goods of a sale were sold for, without tax. */
const netOf = async (saleId: string) => {
  const [row] = await test.house.database.ask((sql) =>
    sql.query<{ net: number }>('select sum(net)::bigint as net from sale_line where sale_id = $1', [saleId]),
  );
  return row?.net ?? 0;
};

describe(`points on ${ENGINE}`, () => {
  it('are earned for goods without tax, rounded down once for the sale, and stand on its receipt', async () => {
    const id = await somebody();
    const sale = await buy(id);
    const earned = Math.floor((await netOf(sale.id)) / 100);
    expect(sale.points).toMatchObject({ customerId: id, earned, used: 0, balance: earned });
    expect(await pointsOf(id)).toBe(earned);
    const receipt = await noor.ask<string>('GET', `/journal/sales/${sale.id}/receipt.txt`);
    expect(receipt.body).toMatch(new RegExp(`Beats earned +${earned}\\n`));
    expect(receipt.body).toMatch(new RegExp(`Beats in all +${earned}\\n`));
    expect((await buy(null)).points).toBeNull();
    await programme({ on: false });
    expect((await buy(id)).points).toBeNull();
    await programme({ on: true });
    await everythingTiesOut();
  });

  it('are taken back for what comes back, in whatever pieces: in the end nothing is left of them', async () => {
    const id = await somebody();
    const kept = await buy(id, ['CAR-SO']);
    const sale = await buy(id, [...GOODS, 'MUS-ST13']);
    for (const position of [2, 4, 1, 3]) {
      const { answer } = await bringBack(noor, sale.id, [{ position, quantity: 1000 }]);
      expect(answer.status).toBe(200);
      await everythingTiesOut();
    }
    expect(await pointsOf(id)).toBe(kept.points?.earned);
    const { moves } = await look(id);
    expect(
      moves.filter(({ saleId }) => saleId === sale.id).reduce((all, { amount }) => all + amount, 0),
    ).toBe(0);
  });

  it('follow a void, and the void of a return', async () => {
    const id = await somebody();
    const voiding = (sale: string) =>
      maren.ask<ProblemDetails>('POST', `/journal/sales/${sale}/void`, { reason: 'Rung up wrongly' });
    const sale = await buy(id, GOODS, {}, maren);
    const before = await pointsOf(id);
    const back = await bringBack(maren, sale.id, [{ position: 2, quantity: 1000 }]);
    expect(back.answer.status).toBe(200);
    expect(await pointsOf(id)).toBeLessThan(before);
    expect((await voiding(back.basket.id)).status).toBe(200);
    expect(await pointsOf(id)).toBe(before);
    await everythingTiesOut();
    expect((await voiding(sale.id)).status).toBe(200);
    expect(await pointsOf(id)).toBe(0);
    await everythingTiesOut();
  });

  it('may go below zero by a return, are not redeemed then, and are filled first by the next ones', async () => {
    const id = await somebody();
    const sale = await buy(id);
    const earned = sale.points?.earned ?? 0;
    expect((await correct(id, 1 - earned)).status).toBe(200);
    const { answer } = await bringBack(
      noor,
      sale.id,
      [1, 2, 3].map((position) => ({ position, quantity: 1000 })),
    );
    expect(answer.status).toBe(200);
    expect(await pointsOf(id)).toBe(1 - earned);
    expect((await correct(id, -1)).body.fields?.[0]?.message).toBe('They have not so many beats.');
    const next = await buy(id);
    expect(await pointsOf(id)).toBe(1 - earned + (next.points?.earned ?? 0));
    await everythingTiesOut();
  });
});

describe(`rewards on ${ENGINE}`, () => {
  const KIT = 'CAR-KIT-CL';
  const reward = async () =>
    (await noor.ask<KeptOffer[]>('GET', '/offers')).body.find(({ needs }) => needs === 'points')?.id ?? 0;
  const lots = (id: number) =>
    test.house.database.ask((sql) =>
      sql.query<{ ends: string | null; left: number }>(
        'select ends_on as ends, remaining as left from points_lot where customer_id = $1 order by id',
        [id],
      ),
    );

  /** What was paid with points comes back for nothing. */
  async function bringKitBack(saleId: string): Promise<void> {
    const { lines, refund } = await linesBack(noor, saleId, [{ position: 1, quantity: 1000 }]);
    expect(refund).toBe(0);
    const basket = { id: newId(), lines };
    expect((await pay(noor, { basket, expectedTotal: 0, handed: 0 } as Sale)).status).toBe(200);
  }

  it('take the points that end first, and what comes back lies where it was', async () => {
    const id = await somebody(400);
    await programme({ months: 2 });
    await correct(id, 300);
    await programme({ months: 12 });
    const before = await lots(id);
    expect(before.map(({ left }) => left)).toEqual([400, 300]);
    const sale = await buy(id, [KIT], { rewards: [await reward()] });
    expect(sale.points).toMatchObject({ used: 500, earned: 0, balance: 200 });
    expect((await lots(id)).map(({ left }) => left)).toEqual([200, 0]);
    await bringKitBack(sale.id);
    expect(await lots(id)).toEqual(before);
    await everythingTiesOut();
  });

  it('that come back after their points have ended can be used for some more days', async () => {
    const id = await somebody();
    await programme({ months: 1 });
    await correct(id, 500);
    await programme({ months: 12 });
    const sale = await buy(id, [KIT], { rewards: [await reward()] });
    await test.house.database.write((sql) =>
      sql.query("update points_lot set ends_on = '2020-01-01' where customer_id = $1", [id]),
    );
    await bringKitBack(sale.id);
    const [lot] = await lots(id);
    expect(lot?.left).toBe(500);
    expect(lot?.ends?.startsWith('2026-')).toBe(true);
    await everythingTiesOut();
  });

  it('are paid once: of two tills that spend the same points, the second is told before it takes payment', async () => {
    const id = await somebody(600);
    const rewards = [await reward()];
    const baskets = await Promise.all([ringUp(test, [KIT]), ringUp(test, [KIT])]);
    const answers = await Promise.all(
      baskets.map((sale, at) => {
        const basket = { ...sale.basket, customer: { id, name: 'Member' }, rewards };
        return pay(at === 0 ? noor : maren, { ...sale, basket, expectedTotal: 0, handed: 0 });
      }),
    );
    expect(answers.map(({ status }) => status).toSorted()).toEqual([200, 409]);
    expect(await pointsOf(id)).toBe(100);
    await everythingTiesOut();
  });

  it('are worth in the books what is expected to be used of them, or nothing where the shop does not value them', async () => {
    const booked = async () => {
      const rows = await test.house.database.ask((sql) =>
        sql.query<{ amount: number }>(
          "select coalesce(-sum(amount), 0)::bigint as amount from ledger_entry where account = 'points-payable'",
        ),
      );
      return rows[0]?.amount ?? 0;
    };
    await programme({ worth: 0 });
    expect(await booked()).toBe(0);
    // A cent a point, of which four in five are expected to be used.
    await programme({ worth: 1_000_000, use: 800_000 });
    const before = await booked();
    expect(before).toBeGreaterThan(0);
    const id = await somebody();
    const sale = await buy(id);
    const earned = await pointsOf(id);
    expect(await booked()).toBe(before + Math.floor(earned * 0.8));
    await correct(id, -10);
    expect(await booked()).toBe(before + Math.floor((earned - 10) * 0.8));
    await correct(id, 10);
    await noor.ask('POST', `/journal/sales/${sale.id}/void`, { reason: 'test' });
    await isolde.ask('POST', `/journal/sales/${sale.id}/void`, { reason: 'test' });
    await everythingTiesOut();
  });

  it('are more for a group, on some goods, on some days: as it was on the day of the sale', async () => {
    const plain = await somebody();
    await buy(plain);
    const once = await pointsOf(plain);
    const none = { groupId: null, categoryId: null, weekdays: [], from: '', to: '' };
    const more = async (wanted: object) => {
      const { status, body } = await isolde.ask<{ id: number } & ProblemDetails>(
        'POST',
        '/setup/points/more',
        {
          ...none,
          ...wanted,
        },
      );
      return { status, body };
    };
    // A Monday: twice on everything, but three times on recorders.
    const { categories } = (await isolde.ask<SetupFacts>('GET', '/setup/facts')).body;
    const recorders = categories.find(({ name }) => name === 'Recorders')?.id ?? 0;
    const monday = await more({ name: 'Mondays', times: 200, weekdays: [1] });
    const three = await more({ name: 'Recorder days', times: 300, categoryId: recorders, to: '2026-03-02' });
    await more({ name: 'Later', times: 900, from: '2026-03-03' });
    const id = await somebody();
    const sale = await buy(id);
    const got = await pointsOf(id);
    expect(got).toBeGreaterThan(2 * once);
    expect(got).toBeLessThanOrEqual(3 * once);
    for (const { body } of [monday, three]) await isolde.ask('DELETE', `/setup/points/more/${body.id}`);
    const again = await somebody();
    await buy(again);
    expect(await pointsOf(again)).toBe(once);
    // What comes back takes what it gave, in whatever pieces.
    for (const position of [1, 2, 3]) await bringBack(noor, sale.id, [{ position, quantity: 1000 }]);
    expect(await pointsOf(id)).toBe(0);
    expect((await more({ name: 'Never', times: 100 })).status).toBe(422);
    expect((await more({ name: 'Backwards', times: 200, from: '2026-03-02', to: '2026-03-01' })).status).toBe(
      422,
    );
    await everythingTiesOut();
  });

  it('end: what is left after its day is gone, and says so', async () => {
    const id = await somebody();
    await programme({ months: 1 });
    await correct(id, 80);
    await programme({ months: 0 });
    await correct(id, 20);
    await programme({ months: 12 });
    expect((await look(id)).panel.ending).toMatchObject({ points: 80 });
    const at = new Date('2026-05-01T05:00:00Z');
    await test.house.database.write((sql) => endPoints(sql, '2026-05-01', at));
    const { panel, moves } = await look(id);
    expect([panel.points, panel.ending]).toEqual([20, null]);
    expect(moves[0]).toMatchObject({ reason: 'ended', amount: -80 });
    expect(await test.house.database.write((sql) => endPoints(sql, '2026-05-01', at))).toBe(0);
    await everythingTiesOut();
  });
});

describe(`joining after the sale on ${ENGINE}`, () => {
  it('gives the points of that sale, once, to one customer', async () => {
    const [id, other] = [await somebody(), await somebody()];
    const sale = await buy(null);
    const answers = await Promise.all([join(id, sale.number), join(other, sale.id, maren)]);
    expect(answers.map(({ status }) => status).toSorted()).toEqual([200, 422]);
    const winner = answers[0]?.status === 200 ? id : other;
    expect(await pointsOf(winner)).toBe(Math.floor((await netOf(sale.id)) / 100));
    expect((await pointsOf(id)) + (await pointsOf(other))).toBe(await pointsOf(winner));
    // Goods that come back take the points from whoever got them.
    await bringBack(
      noor,
      sale.id,
      [1, 2, 3].map((position) => ({ position, quantity: 1000 })),
    );
    expect(await pointsOf(winner)).toBe(0);
    await everythingTiesOut();
  });

  it('is refused with a reason: no such sale, somebody else was there, too late', async () => {
    const [id, other] = [await somebody(), await somebody()];
    const why = async (sale: string) => (await join(id, sale)).body.fields?.[0]?.message;
    expect(await why('nonsense')).toBe('A receipt number looks like 1-0042.');
    expect(await why('1-9999')).toBe('There is no such sale.');
    expect(await why(newId())).toBe('There is no such sale.');
    const nothing = await buy(null);
    const everything = [1, 2, 3].map((position) => ({ position, quantity: 1000 }));
    expect((await bringBack(noor, nothing.id, everything)).answer.status).toBe(200);
    expect(await why(nothing.number)).toBe('There is nothing in it that gives beats.');
    const theirs = await buy(other);
    expect(await why(theirs.number)).toMatch(/^Its beats went to Member/);
    await programme({ on: false });
    const silent = await buy(other);
    expect((await join(id, silent.number)).status).toBe(409);
    await programme({ on: true, joinDays: 0 });
    expect(await why(silent.number)).toBe('This sale was for somebody else.');
    const old = await buy(null);
    expect((await join(other, silent.number)).status).toBe(200);
    expect((await join(id, old.number)).status).toBe(200);
    await programme({ joinDays: 14 });
  });
});

/** A law that holds after whatever happens: moves, lots, uses and what each sale should have given agree. */
describe(`the law of points on ${ENGINE}`, () => {
  it('holds after any sales, points as money off, returns in pieces, rewards, corrections and voids', async () => {
    const members = [await somebody(), await somebody(900), await somebody(50)];
    let seed = 20260302;
    const upTo = (most: number) => {
      seed = (seed * 1_103_515_245 + 12_345) % 2 ** 31;
      return Math.floor((seed / 2 ** 31) * most);
    };
    const open: { id: string; left: number[] }[] = [];
    for (let step = 0; step < 30; step++) {
      const id = members[upTo(3)] ?? 0;
      const some = open[upTo(open.length)];
      const what = upTo(4);
      if (what === 0 && some && some.left.length > 0) {
        const position = some.left.splice(upTo(some.left.length), 1)[0] ?? 1;
        await bringBack(noor, some.id, [{ position, quantity: 1000 }]);
      } else if (what === 1) {
        await correct(id, upTo(2) === 0 ? 1 + upTo(40) : -1 - upTo(200));
      } else if (what === 2 && (await pointsOf(id)) > 0 && upTo(2) === 0) {
        const sale = await buy(id, ['CAR-SO'], {}, maren);
        if (upTo(2) === 0) await maren.ask('POST', `/journal/sales/${sale.id}/void`, { reason: 'Wrong' });
      } else {
        const sale = await buy(id, GOODS.slice(0, 1 + upTo(3)), {
          pointsOff: [undefined, 100, 400][upTo(3)],
        });
        const lines = await test.house.database.ask((sql) =>
          sql.query<{ position: number }>('select position from sale_line where sale_id = $1', [sale.id]),
        );
        open.push({ id: sale.id, left: lines.map(({ position }) => position) });
      }
      await everythingTiesOut();
    }
    // Everything that is still out comes back: nothing of what was earned, or given for money off, is left.
    for (const { id, left } of open)
      for (const position of left) await bringBack(noor, id, [{ position, quantity: 1000 }]);
    const [rest] = await test.house.database.ask((sql) =>
      sql.query<{ points: number }>(
        `select coalesce(sum(amount), 0)::bigint as points from points_move
         where sale_id = any ($1::uuid[]) and reason <> 'reward' and reason <> 'given back'`,
        [open.map(({ id }) => id)],
      ),
    );
    expect(rest?.points).toBe(0);
    await everythingTiesOut();
  }, 120_000);
});
