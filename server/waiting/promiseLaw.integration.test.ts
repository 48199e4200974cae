import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { OrderStep } from '../../contract/orders.ts';
import type { PromiseView } from '../../contract/promises.ts';
import type { PartnerAtTill } from '../../contract/relay.ts';
import type { BasketCustomer } from '../../core/counter/basket.ts';
import { isOpen } from '../../core/promises/state.ts';
import { seeded } from '../../demo/random.ts';
import { verify } from '../books/verify.ts';
import { askAsChannel, orderThere } from '../testing/channel.ts';
import { passOn, sayAtHub } from '../testing/hub.ts';
import {
  allLeft,
  giveUp,
  handOver,
  lookAt,
  payDeposit,
  payOrders,
  placeOrder,
  plainCustomer,
  setAside,
} from '../testing/promising.ts';
import { ENGINE, openDrawer, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';
import type { MadePromise } from './promising.ts';

/** So many things happen; more with MONDREL_WALK. */
const EVENTS = Number(process.env.MONDREL_WALK ?? 80);
const GOODS = ['MET-C', 'CAR-SO', 'CAR-KIT-TR', 'LES-30'];

let test: TestHouse;
let tills: Browser[];
let customer: BasketCustomer;

beforeAll(async () => {
  test = await openHouse('demo', { MONDREL_HUB: '0' });
  tills = [test.browser(), test.browser(), test.browser()];
  for (const [at, till] of tills.entries()) {
    await till.signIn('8024', at + 1);
    await openDrawer(till);
  }
  customer = await plainCustomer(test);
  await payOrders(test, 'handover');
});
afterAll(() => test.stop());

const PLACES = [1, 2, 3];
const SHIP = {
  recipient: 'Wilma Corrin',
  street: 'Mill Lane 3',
  postcode: '40100',
  city: 'Dunmere',
  phone: '',
  wishes: '',
  gift: false,
};
/** Shipping within the town costs so much, whatever the parcel weighs of these goods. */
const FEE = 4_50;

/** What was paid for each promise, what became of it, and what is held. */
const moneyOf = () =>
  test.house.database.ask((sql) =>
    sql.query<{ number: string; held: number; paid: number; gone: number; voided: number; over: boolean }>(
      `select promise.kind || ' ' || number as number, held, handed = units or cancelled_at is not null as over,
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
    const ids: string[] = [];
    let passed = 0;
    const sales: string[] = [];
    const key = () => ({ 'idempotency-key': newKey() });

    /** Sets goods aside, or orders them: taken along, collected or shipped, from anywhere. */
    async function promise(till: Browser, numbers: string[], upTo: (most: number) => number) {
      if (upTo(4) === 0) return fromPartner(till, upTo);
      if (upTo(6) === 0) return relay(till, upTo);
      if (upTo(3) === 0) return fromElsewhere(upTo);
      if (upTo(2) === 0) return setAside(test, till, customer, numbers, { fee: upTo(300) });
      const here = till === tills[2] ? 2 : 1;
      const wanted = numbers.map((number) => {
        const way = (['take', 'collect', 'ship'] as const)[upTo(3)] ?? 'collect';
        const missing = way !== 'take' && upTo(5) === 0 ? 1000 : 0;
        const parts = way === 'take' || missing ? [] : [{ placeId: PLACES[upTo(3)] ?? 1, quantity: 1000 }];
        return [number, { way, parts, missing }] as const;
      });
      const ships = wanted.some(([, { way }]) => way === 'ship');
      const ways = Object.fromEntries(wanted);
      return placeOrder(
        test,
        till,
        customer,
        numbers,
        { ways, ship: ships ? SHIP : null, fee: ships ? FEE : 0 },
        here,
      );
    }
    /** Orders elsewhere, and pays nothing, some of it or all of it there. */
    async function fromElsewhere(upTo: (most: number) => number) {
      const order = await orderThere(test, { payment: null }, [
        ['PAD-08', 1],
        ['CAR-SO', 1 + upTo(2)],
      ]);
      const amount = [0, 1 + upTo(order.total), order.total][upTo(3)] ?? 0;
      const payment = amount > 0 ? { reference: `first ${order.reference}`, amount } : null;
      const { status } = await askAsChannel(test, 'POST', '/orders', { ...order, payment });
      const found = await tills[0]?.ask<PromiseView>('GET', `/waiting/promises/numbered/${order.reference}`);
      const view = found?.body;
      if (view && upTo(2) === 0)
        await tills[0]?.ask('POST', `/waiting/orders/${view.id}/excused`, { reason: 'known' }, key());
      return { answer: { status, body: { id: view?.id ?? '' } } };
    }
    /** A partner passes an order on; it is answered, or waits. */
    async function fromPartner(till: Browser, upTo: (most: number) => number) {
      passed += 1;
      const number = `CORRAN-${passed}`;
      await passOn(test, { day: '2026-05-01', part: `${20 + upTo(50)}.00` });
      const known = () => till.ask<PromiseView>('GET', `/waiting/promises/numbered/${number}`);
      await eventually(async () => expect((await known()).status).toBe(200));
      const { id } = (await known()).body;
      if (upTo(4) > 0) await till.ask('POST', `/waiting/relays/orders/${id}/accepted`, { words: '' }, key());
      return { answer: { status: 200, body: { id } } };
    }
    /** An order that is passed on to a partner, and mostly paid. */
    async function relay(till: Browser, upTo: (most: number) => number) {
      const { body: partners } = await till.ask<PartnerAtTill[]>('GET', '/waiting/relays/partners');
      const price = 20_00 + upTo(40_00);
      const partnerId = partners.find(({ code }) => code === 'FARHARP')?.id;
      const where = { partnerId, day: '2026-03-04', part: upTo(price) };
      const { recipient, street, postcode, city, phone, wishes } = SHIP;
      const terms = {
        recipient,
        street,
        postcode,
        city,
        phone,
        wishes,
        card: '',
        goods: 'Strings',
        price,
        ...where,
      };
      const wanted = { customerId: customer.id, terms };
      await test.house.database.write((sql) => sql.query('delete from basket'));
      const answer = await till.ask<MadePromise>('POST', '/waiting/relays', wanted, key());
      await test.house.database.write((sql) => sql.query('delete from basket'));
      if (answer.status === 200 && upTo(4) > 0) {
        const paid = await payDeposit(test, till, answer.body.id, (await lookAt(till, answer.body.id)).rest);
        if (paid.status === 200) sales.push(paid.body.id);
      }
      return { answer };
    }
    /** What a partner says of what it has, or was sent. */
    const partnerSays = async (till: Browser, view: PromiseView, upTo: (most: number) => number) => {
      const kinds = view.relay ? ['accepted', 'refused', 'delivered', 'delivered'] : ['withdrawn', 'note'];
      const number = view.placedAt?.reference ?? view.number;
      if (view.relay?.state === 'refused') {
        const [last] = view.relay.tries;
        const again = { partnerId: last?.partnerId, day: '2026-03-05', part: upTo(20_00) };
        await till.ask('POST', `/waiting/relays/${view.id}/sent`, again, key());
      } else await sayAtHub(test, number, kinds[upTo(kinds.length)] ?? '', 'so');
    };
    /** What happens to it there: a payment more, or it is cancelled. */
    const elsewhere = ({ placedAt, rest, held }: PromiseView, nth: number, upTo: (most: number) => number) =>
      upTo(3) === 0
        ? askAsChannel(test, 'POST', `/orders/${placedAt?.reference ?? ''}/cancelled`, {})
        : askAsChannel(test, 'POST', `/orders/${placedAt?.reference ?? ''}/payments`, {
            reference: `later ${nth}`,
            amount: 1 + upTo(Math.max(1, rest - held)),
          });
    const work = (till: Browser, id: string, step: OrderStep) =>
      till.ask('POST', `/waiting/orders/${id}/steps`, step, key());
    async function pickOrSend(till: Browser, id: string, view: PromiseView, upTo: (most: number) => number) {
      const line = view.lines[upTo(view.lines.length)];
      const placeId = PLACES[upTo(3)] ?? 1;
      if (upTo(3) === 0) await work(till, id, { what: 'pick', placeId });
      else if (line && upTo(2) === 0)
        await work(till, id, { what: 'pick', position: line.position, found: 1000 * upTo(2) });
      else if (line && upTo(2) === 0)
        await work(till, id, { what: 'source', position: line.position, placeId });
      else if (upTo(2) === 0) await work(till, id, { what: 'send', placeId });
      else await work(till, id, { what: 'arrived' });
    }

    /** One event of many. What it is follows from its number alone, whatever else happens at the same time. */
    async function once(nth: number): Promise<void> {
      const random = seeded(14 + nth);
      const upTo = (most: number) => Math.floor(random() * most);
      const pick = <One>(all: readonly One[]): One => all[upTo(all.length)] as One;
      const till = pick(tills);
      if (ids.length < 3 || random() < 0.15) {
        const numbers = [...new Set(Array.from({ length: 1 + upTo(3) }, () => pick(GOODS)))];
        const { answer } = await promise(till, numbers, upTo);
        if (answer.status === 200) ids.push(answer.body.id);
        return;
      }
      const id = pick(ids);
      const view = await lookAt(till, id);
      if ((view.relay || view.partnerOrder) && random() < 0.4) return partnerSays(till, view, upTo);
      if (view.placedAt && !view.partnerOrder && isOpen(view.state) && random() < 0.25)
        return void (await elsewhere(view, nth, upTo));
      if (view.kind === 'order' && isOpen(view.state) && random() < 0.5)
        return pickOrSend(till, id, view, upTo);
      const what = isOpen(view.state)
        ? pick(['pay', 'pay', 'hand over', 'hand over', 'give up', 'take out', 'void'])
        : 'void';
      if (what === 'pay') {
        const left = Math.max(1, view.rest - view.held);
        const paid = await payDeposit(test, till, id, 1 + upTo(random() < 0.2 ? left * 2 : left));
        if (paid.status === 200) sales.push(paid.body.id);
      } else if (what === 'hand over') {
        const wanted = new Map([...allLeft(view)].filter(() => random() < 0.6));
        const gone = wanted.size > 0 ? await handOver(test, till, id, wanted) : undefined;
        if (gone?.status === 200) sales.push(gone.body.id);
      } else if (what === 'take out') {
        await till.ask('DELETE', `/waiting/promises/${id}/goods/${1 + upTo(3)}`, undefined, key());
      } else if (what === 'give up' && view.held > 0) {
        const { answer } = await giveUp(
          test,
          till,
          customer,
          id,
          Math.min(view.held - 1, view.fee, upTo(300)),
        );
        if (answer.body.finished) sales.push(answer.body.finished.id);
      } else if (sales.length > 0) {
        await till.ask('POST', `/journal/sales/${pick(sales)}/void`, { reason: 'wrong' }, key());
      }
    }

    // Each kind of event once, so that all of them come to pass.
    const [first, second] = tills as [Browser, Browser, Browser];
    for (const [till, goods] of [
      [first, ['MET-C']],
      [second, ['MET-C', 'CAR-SO']],
    ] as const) {
      const { answer, wanted } = await setAside(test, till, customer, goods, { fee: 100 });
      ids.push(answer.body.id);
      expect((await payDeposit(test, till, answer.body.id, wanted.terms.deposit)).status).toBe(200);
    }
    const [given = '', handed = ''] = ids;
    expect((await giveUp(test, first, customer, given, 100)).answer.body.finished).toBeTruthy();
    const gone = await handOver(test, second, handed, new Map([[2, 1000]]));
    expect(gone.status).toBe(200);
    const undone = await second.ask(
      'POST',
      `/journal/sales/${gone.body.id}/void`,
      { reason: 'wrong' },
      key(),
    );
    expect(undone.status).toBe(200);

    const parts = [{ placeId: 2, quantity: 1000 }];
    const ways = { 'CAR-SO': { parts }, 'CAR-KIT-TR': { way: 'ship' as const } };
    const ordered = await placeOrder(test, first, customer, ['CAR-SO', 'CAR-KIT-TR'], {
      ways,
      ship: SHIP,
      fee: FEE,
    });
    const order = ordered.answer.body.id;
    ids.push(order);
    expect((await payDeposit(test, second, order, 500)).status).toBe(200);
    for (const step of [
      { what: 'pick', placeId: 2 },
      { what: 'pick', placeId: 1 },
      { what: 'send', placeId: 2 },
      { what: 'arrived' },
    ] as const)
      expect((await work(first, order, step)).status, step.what).toBe(200);
    expect((await handOver(test, first, order, new Map([[1, 1000]]))).status).toBe(200);

    for (let nth = 0; nth < EVENTS; nth++) {
      // Now and then two things happen at once.
      if (nth % 4 === 3) await Promise.all([once(2 * nth), once(2 * nth + 1)]);
      else await once(2 * nth);
      for (const { number, held, paid, gone, voided, over } of await moneyOf()) {
        expect(paid + voided - gone, number).toBe(held);
        expect(held).toBeGreaterThanOrEqual(0);
        expect(over && held > 0, `${number} is over`).toBe(false);
      }
      if (nth % 10 === 9) expect(await test.house.database.ask(verify)).toEqual([]);
    }
    expect(await test.house.database.ask(verify)).toEqual([]);
  },
);
