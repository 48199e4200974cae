import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { BasketCustomer } from '../../core/counter/basket.ts';
import { isOpen } from '../../core/promises/state.ts';
import { seeded } from '../../demo/random.ts';
import { verify } from '../ledger/verify.ts';
import {
  allLeft,
  giveUp,
  handOver,
  lookAt,
  payDeposit,
  plainCustomer,
  setAside,
} from '../testing/promising.ts';
import { ENGINE, openDrawer, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';

/** So many things happen; more with MONDREL_WALK. */
const EVENTS = Number(process.env.MONDREL_WALK ?? 60);
const GOODS = ['MET-C', 'CAR-SO', 'CAR-KIT-TR', 'LES-30'];

let test: TestHouse;
let tills: Browser[];
let customer: BasketCustomer;

beforeAll(async () => {
  test = await openHouse();
  tills = [test.browser(), test.browser()];
  for (const [at, till] of tills.entries()) {
    await till.signIn('8024', at + 1);
    await openDrawer(till);
  }
  customer = await plainCustomer(test);
});
afterAll(() => test.stop());

/** What was paid for each promise, what became of it, and what is held. */
const moneyOf = () =>
  test.house.database.ask((sql) =>
    sql.query<{ number: number; held: number; paid: number; gone: number; voided: number }>(
      `select number, held,
              coalesce(sum(amount) filter (where move.kind = 'deposit'), 0)::bigint as paid,
              coalesce(-sum(amount) filter (where move.kind in ('used', 'fee', 'back')), 0)::bigint as gone,
              coalesce(sum(amount) filter (where move.kind = 'void'), 0)::bigint as voided
       from promise left join promise_move as move on move.promise_id = promise.id group by promise.id`,
    ),
  );

it(
  `deposits are used, given back, kept as a fee or held, through ${EVENTS} random events on ${ENGINE}`,
  { timeout: 120_000 + EVENTS * 600 },
  async () => {
    const random = seeded(14);
    const upTo = (most: number) => Math.floor(random() * most);
    const pick = <One>(all: readonly One[]): One => all[upTo(all.length)] as One;
    const ids: string[] = [];
    const sales: string[] = [];
    const counts = new Map<string, number>();
    const count = (what: string): void => {
      counts.set(what, (counts.get(what) ?? 0) + 1);
    };
    const key = () => ({ 'idempotency-key': newKey() });

    async function once(till: Browser): Promise<void> {
      const id = ids.length < 3 || random() < 0.15 ? undefined : pick(ids);
      if (id === undefined) {
        const numbers = Array.from({ length: 1 + upTo(3) }, () => pick(GOODS));
        const { answer } = await setAside(test, till, customer, numbers, { fee: upTo(300) });
        if (answer.status === 200) ids.push(answer.body.id);
        return count(answer.status === 200 ? 'made' : 'not made');
      }
      const view = await lookAt(till, id);
      const what = isOpen(view.state)
        ? pick(['pay', 'pay', 'hand over', 'hand over', 'give up', 'void'])
        : 'void';
      if (what === 'pay') {
        const left = Math.max(0, view.rest - view.held);
        const paid = await payDeposit(
          test,
          till,
          id,
          1 + upTo(random() < 0.2 ? left * 2 : Math.max(1, left)),
        );
        if (paid.status === 200) sales.push(paid.body.id);
        return count(paid.status === 200 ? 'paid' : 'not paid');
      }
      if (what === 'hand over') {
        const wanted = new Map([...allLeft(view)].filter(() => random() < 0.6));
        if (wanted.size === 0) return;
        const gone = await handOver(test, till, id, wanted);
        if (gone.status === 200) sales.push(gone.body.id);
        return count(gone.status === 200 ? 'handed over' : 'not handed over');
      }
      if (what === 'give up' && view.held > 0 && random() < 0.5) {
        const { answer } = await giveUp(test, till, customer, id, Math.min(view.held - 1, upTo(300)));
        if (answer.body.finished) sales.push(answer.body.finished.id);
        return count(answer.body.finished ? 'given up' : 'not given up');
      }
      if (sales.length === 0) return;
      const undone = await till.ask('POST', `/journal/sales/${pick(sales)}/void`, { reason: 'wrong' }, key());
      return count(undone.status === 200 ? 'voided' : 'not voided');
    }

    for (let nth = 0; nth < EVENTS; nth++) {
      // Now and then both tills do something at once.
      if (random() < 0.25) await Promise.all(tills.map(once));
      else await once(pick(tills));
      for (const { number, held, paid, gone, voided } of await moneyOf()) {
        expect(paid + voided - gone, `L-${number}`).toBe(held);
        expect(held).toBeGreaterThanOrEqual(0);
      }
      if (nth % 10 === 9) expect(await test.house.database.ask(verify)).toEqual([]);
    }
    expect(await test.house.database.ask(verify)).toEqual([]);
    // Every kind of event came to pass.
    for (const what of ['made', 'paid', 'handed over', 'given up', 'voided']) {
      expect(counts.get(what) ?? 0, `${what} in ${JSON.stringify([...counts])}`).toBeGreaterThan(0);
    }
  },
);
