import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import ICAL from 'ical.js';
import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { OrderFacts, OrderStep, ShipWanted } from '../../contract/orders.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { PromisePage, PromiseView } from '../../contract/promises.ts';
import type { BasketCustomer } from '../../core/counter/basket.ts';
import { goodsLines, moneyLine } from '../../core/counter/promiseBasket.ts';
import { sum } from '../../core/money.ts';
import { wantsAttention } from '../../core/promises/state.ts';
import { isTrackingNumber } from '../../devices/carrier/trackingNumber.ts';
import { businessDate } from '../clock.ts';
import { verify } from '../books/verify.ts';
import { rowOf } from '../promises/rows.ts';
import { promiseList } from '../promises/store.ts';
import {
  allLeft,
  giveUp,
  handOver,
  lookAt,
  payDeposit,
  payOrders,
  payPromised,
  placeOrder,
  plainCustomer,
  pricedAt,
  type OrderAsked,
} from '../testing/promising.ts';
import { setStock } from '../testing/stocking.ts';
import { ENGINE, openDrawer, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';

let test: TestHouse;
let noor: Browser;
let quay: Browser;
let customer: BasketCustomer;
const OSTLER = 1;
const QUAYSIDE = 2;
const DEPOT = 3;

beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  quay = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  await quay.signIn('2468', 3);
  await openDrawer(quay);
  customer = await plainCustomer(test);
  await test.house.database.write(async (sql) => {
    await sql.query("update customer set mail = 'hedy@reader.example' where id = $1", [customer.id]);
    // So much of a tuner at each place.
    for (const [place, quantity] of [
      [OSTLER, 1000],
      [QUAYSIDE, 2000],
      [DEPOT, 5000],
    ] as const)
      await setStock(sql, 'MET-C', place, quantity);
  });
  await payOrders(test, 'handover');
});
afterAll(() => test.stop());

const sql = <Row extends object>(text: string, values: (string | number)[] = []) =>
  test.house.database.ask((reader) => reader.query<Row>(text, values));
const place = (numbers: readonly string[], asked: OrderAsked = {}, by = noor, here = OSTLER) =>
  placeOrder(test, by, customer, numbers, asked, here);
const look = (id: string) => lookAt(noor, id);
const step = (id: string, body: OrderStep, by = noor) =>
  by.ask<PromiseView & ProblemDetails>('POST', `/waiting/orders/${id}/steps`, body, {
    'idempotency-key': newKey(),
  });
const differences = () => test.house.database.ask(verify);
const levelAt = async (placeId: number, number = 'MET-C') =>
  (
    await sql<{ quantity: number; setAside: number }>(
      `select quantity, set_aside as "setAside" from stock_level join item on item.id = item_id
       where number = $1 and place_id = $2`,
      [number, placeId],
    )
  )[0] ?? { quantity: 0, setAside: 0 };

const SHIP: ShipWanted = {
  recipient: 'Wilma Corrin',
  street: 'Mill Lane 3',
  postcode: '51200',
  city: 'Dunmere',
  phone: '',
  wishes: 'Leave it with the neighbour',
  gift: true,
};
const FEE = 6_90;

describe(`orders on ${ENGINE}`, () => {
  it('say what places have, how far they are, and how orders are taken', async () => {
    const [item] = await sql<{ id: number }>("select id from item where number = 'MET-C'");
    const { body } = await noor.ask<OrderFacts>('GET', `/waiting/orders/facts?items=${item?.id ?? 0}`);
    expect(body.places.map(({ name }) => name)).toEqual(['Ostler Lane', 'Quayside', 'Depot']);
    expect(body.stock[0]?.sources).toMatchObject([
      { place: 'Depot', available: 5000 },
      { place: 'Ostler Lane', available: 1000 },
      { place: 'Quayside', available: 2000 },
    ]);
    expect(body.rules.zones).toHaveLength(2);
  });

  it('are placed once, with goods set aside where they are picked, and printed', async () => {
    const before = await levelAt(DEPOT);
    const { answer, ask } = await place(['MET-C'], {
      ways: { 'MET-C': { parts: [{ placeId: DEPOT, quantity: 1000 }] } },
      note: 'after school',
    });
    expect(answer.status).toBe(200);
    expect(answer.body).toMatchObject({ number: 'O-0001', stored: { basket: { lines: [] } } });
    expect((await ask()).body.id).toBe(answer.body.id);
    const view = await look(answer.body.id);
    expect(view).toMatchObject({
      kind: 'order',
      state: 'placed',
      held: 0,
      handover: { collect: { place: 'Ostler Lane', time: '12:00' }, ship: null },
      lines: [{ order: { way: 'collect', place: 'Depot', picked: 0, short: 0, sent: false } }],
    });
    expect(await levelAt(DEPOT)).toEqual({ ...before, setAside: before.setAside + 1000 });
    const paper = await eventually(async () => {
      const { body } = await noor.ask<{ text: string }[]>('GET', '/printer/papers');
      const found = body.find((one) => one.text.includes('*O-0001*'));
      expect(found).toBeDefined();
      return found?.text ?? '';
    });
    expect(paper).toMatch(/Collect at +Ostler Lane\n/);
    expect(paper).toContain('after school');
    expect(await differences()).toEqual([]);
  });

  it('are picked, sent, taken in and handed over; the customer is told once, and stock follows', async () => {
    const [depot, ostler] = [await levelAt(DEPOT), await levelAt(OSTLER)];
    const { answer } = await place(['MET-C'], {
      ways: { 'MET-C': { parts: [{ placeId: DEPOT, quantity: 1000 }] } },
    });
    const { id } = answer.body;
    const early = await handOver(test, noor, id, new Map([[1, 1000]]));
    expect(early.status).toBe(422);
    expect(JSON.stringify(early.body)).toContain('have it sent here first');

    expect((await step(id, { what: 'send', placeId: DEPOT })).status).toBe(409);
    expect((await step(id, { what: 'pick', position: 1, found: 1000 })).body).toMatchObject({
      state: 'picking',
    });
    expect((await step(id, { what: 'pick', position: 1, found: 1000 })).status).toBe(409);
    expect((await step(id, { what: 'send', placeId: DEPOT })).body.lines).toMatchObject([
      { order: { sent: true } },
    ]);
    expect(await levelAt(DEPOT)).toEqual({ ...depot, quantity: depot.quantity - 1000 });
    expect(await differences()).toEqual([]);

    // Nothing is given up or taken over the counter that is on the way.
    expect((await handOver(test, noor, id, new Map([[1, 1000]]))).status).toBe(422);
    const dropped = await noor.ask<ProblemDetails>(
      'POST',
      `/waiting/promises/${id}/cancelled`,
      { reason: 'no' },
      { 'idempotency-key': newKey() },
    );
    expect(dropped.body.title).toContain('on the way');

    const arrived = await step(id, { what: 'arrived' });
    expect(arrived.body).toMatchObject({
      state: 'ready',
      lines: [{ order: { place: 'Ostler Lane', sent: false } }],
    });
    expect(await levelAt(OSTLER)).toEqual({
      quantity: ostler.quantity + 1000,
      setAside: ostler.setAside + 1000,
    });
    expect(arrived.body.events.filter(({ what }) => what === 'Ready, customer told')).toHaveLength(1);
    expect(await sql('select 1 from outbox where promise_id = $1', [id])).toHaveLength(1);
    expect((await step(id, { what: 'arrived' })).status).toBe(409);

    expect((await handOver(test, noor, id, new Map([[1, 1000]]))).status).toBe(200);
    expect((await look(id)).state).toBe('handed');
    expect(await levelAt(OSTLER)).toEqual(ostler);
    expect(await differences()).toEqual([]);
  });

  it('that are short are picked elsewhere, in parts, and cost together what was promised', async () => {
    const { answer } = await place(['MET-C'], {
      units: 2,
      ways: { 'MET-C': { parts: [{ placeId: QUAYSIDE, quantity: 2000 }] } },
    });
    const { id } = answer.body;
    const total = (await look(id)).total;
    // What Quayside has by the books turns out to be one only.
    const short = await step(id, { what: 'pick', position: 1, found: 1000 });
    expect(short.body).toMatchObject({ state: 'short', lines: [{ order: { picked: 1000, short: 1000 } }] });
    expect((await levelAt(QUAYSIDE)).setAside).toBe(1000);
    expect(await differences()).toEqual([]);

    expect((await step(id, { what: 'source', position: 1, placeId: QUAYSIDE })).status).toBe(409);
    // What is short is not found by saying that all is picked.
    expect((await step(id, { what: 'pick', placeId: QUAYSIDE })).status).toBe(409);
    const moved = await step(id, { what: 'source', position: 1, placeId: DEPOT });
    expect(moved.body.lines).toMatchObject([
      { quantity: 1000, order: { place: 'Quayside', picked: 1000 } },
      { quantity: 1000, order: { place: 'Depot', picked: 0, short: 0 } },
    ]);
    expect(sum(moved.body.lines.map(({ net, tax }) => net + tax))).toBe(total);
    expect(await differences()).toEqual([]);
    const given = await noor.ask<PromiseView & ProblemDetails>(
      'POST',
      `/waiting/promises/${id}/cancelled`,
      { reason: 'No longer wanted' },
      { 'idempotency-key': newKey() },
    );
    expect(given.body.state).toBe('cancelled');
    expect((await levelAt(QUAYSIDE)).setAside).toBe(0);
    expect(await differences()).toEqual([]);
  });

  it('wait for what no place has', async () => {
    const { answer } = await place(['MET-C'], {
      ways: { 'MET-C': { parts: [], missing: 1000 } },
    });
    const { id } = answer.body;
    expect(await look(id)).toMatchObject({
      state: 'short',
      lines: [{ order: { short: 1000, place: 'Ostler Lane' } }],
    });
    const came = await step(id, { what: 'pick', position: 1, found: 1000 });
    expect(came.body.state).toBe('ready');
    expect((await levelAt(OSTLER)).setAside).toBe(1000);
    expect((await handOver(test, noor, id, allLeft(came.body))).status).toBe(200);
    expect(await differences()).toEqual([]);
  });

  it('of the last piece are placed once: the second is told', async () => {
    const ways = { 'MET-C': { parts: [{ placeId: QUAYSIDE, quantity: 1000 }] } };
    const both = [
      await place(['MET-C'], { ways }),
      await place(['MET-C'], { ways }, quay),
      await place(['MET-C'], { ways }),
    ];
    expect(both.map(({ answer }) => answer.status)).toEqual([200, 200, 409]);
    expect(both[2]?.answer.body.type).toBe('not-available');
    for (const { answer } of both.slice(0, 2)) {
      const cancelled = await noor.ask(
        'POST',
        `/waiting/promises/${answer.body.id}/cancelled`,
        { reason: 'No longer wanted' },
        { 'idempotency-key': newKey() },
      );
      expect(cancelled.status).toBe(200);
    }
  });

  it('mix what is taken along, collected and shipped, paid as the shop says', async () => {
    await payOrders(test, 'full');
    const numbers = ['MET-C', 'CAR-SO'];
    const ways = { 'MET-C': { way: 'take' as const }, 'CAR-SO': { way: 'ship' as const } };
    const low = await place(numbers, { ways, ship: SHIP, fee: FEE, deposit: 0 });
    expect(low.answer.status).toBe(422);
    expect(JSON.stringify(low.answer.body.fields)).toContain('is paid at once');
    const wrongFee = await place(numbers, { ways, ship: SHIP, fee: 1_00, deposit: 0 });
    expect(JSON.stringify(wrongFee.answer.body.fields)).toContain('fee of shipping has changed');

    const mixed = await place(numbers, { ways, ship: SHIP, fee: FEE, deposit: await dueFor(low) });
    expect(mixed.answer.body).toMatchObject({ number: expect.any(String) as string });
    const facts = await look(mixed.answer.body.id);
    expect(facts.lines.map(({ order, name }) => [name, order?.way])).toMatchObject([
      [expect.any(String), 'take'],
      [expect.any(String), 'ship'],
      ['Shipping', 'ship'],
    ]);
    expect(facts.state).toBe('begun');
    const taken = goodsLines(facts, new Map([[1, 1000]]), newKey);
    const rest = sum(facts.lines.slice(1).map(({ net, tax }) => net + tax));
    const paid = await payPromised(test, noor, [...taken, moneyLine(facts, 'deposit', rest, newKey)]);
    expect(paid.status).toBe(200);
    const { body: sale } = await noor.ask<{ paper: { rows: { left?: string; right?: string }[] } }>(
      'GET',
      `/journal/sales/${paid.body.id}`,
    );
    expect(sale.paper.rows.filter(({ left }) => left === 'Left to pay')).toMatchObject([{ right: '0.00' }]);
    const after = await look(facts.id);
    expect(after).toMatchObject({ state: 'part', held: rest, rest });
    expect(await differences()).toEqual([]);

    // The label comes once the carrier can be reached; what is stored as asked is asked again.
    const carrier = join(test.dataFolder, 'carrier');
    mkdirSync(carrier, { recursive: true });
    writeFileSync(join(carrier, 'closed'), '');
    expect((await step(facts.id, { what: 'pick', position: 2, found: 1000 })).body.state).toBe('ready');
    const asked = () =>
      noor.ask<PromiseView & ProblemDetails>(
        'POST',
        `/waiting/orders/${facts.id}/parcels`,
        {},
        { 'idempotency-key': newKey() },
      );
    expect((await asked()).status).toBe(200);
    await eventually(async () =>
      expect((await look(facts.id)).handover?.parcels[0]?.trouble).toContain('cannot be reached'),
    );
    expect((await asked()).status).toBe(409);
    rmSync(join(carrier, 'closed'));
    await test.house.database.write((writer) => writer.query('update parcel set try_at = asked_at'));
    await test.restart();
    await noor.signIn('1357', 1);
    await quay.signIn('2468', 3);
    const parcel = await eventually(async () => {
      const [one] = (await look(facts.id)).handover?.parcels ?? [];
      expect(one?.state).toBe('labelled');
      return one;
    });
    expect(isTrackingNumber(parcel?.tracking ?? '')).toBe(true);

    expect((await handOver(test, noor, facts.id, allLeft(await look(facts.id)))).status).toBe(200);
    const gone = await look(facts.id);
    expect(gone.state).toBe('shipped');
    expect(gone.events.some(({ what }) => what === 'Shipped')).toBe(true);
    const [told] = await sql<{ subject: string }>('select subject from outbox where promise_id = $1', [
      facts.id,
    ]);
    expect(told?.subject).toBe('Your order is on its way');
    expect(await differences()).toEqual([]);
    await payOrders(test, 'handover');
  });

  it('that are collected and shipped: whoever collects is told when that lies ready, whatever becomes of the parcel', async () => {
    const { answer } = await place(['CAR-SO', 'CAR-KIT-TR'], {
      ways: { 'CAR-KIT-TR': { way: 'ship' } },
      ship: SHIP,
      fee: FEE,
    });
    const { id } = answer.body;
    const view = await look(id);
    const collected = view.lines.find(({ order }) => order?.way === 'collect');
    const picked = await step(id, { what: 'pick', position: collected?.position, found: 1000 });
    expect(picked.body.state).toBe('picking');
    expect(picked.body.events.filter(({ what }) => what === 'Ready, customer told')).toHaveLength(1);
    const dropped = await noor.ask(
      'POST',
      `/waiting/promises/${id}/cancelled`,
      { reason: 'No longer wanted' },
      { 'idempotency-key': newKey() },
    );
    expect(dropped.status).toBe(200);
    expect(await differences()).toEqual([]);
  });

  it('refuse what cannot be: times, places, everything taken along, lines that nobody named', async () => {
    const words = async (asked: OrderAsked) =>
      JSON.stringify((await place(['CAR-SO'], asked)).answer.body.fields ?? []);
    const at = { placeId: OSTLER, day: '2026-03-08', time: '12:00', collector: '' };
    expect(await words({ collect: at })).toContain('closed on Sundays');
    expect(await words({ collect: { ...at, day: '2020-01-01' } })).toContain('cannot be ready before');
    expect(await words({ collect: { ...at, day: '2026-03-03', time: '05:00' } })).toContain('open from');
    expect(await words({ collect: { ...at, placeId: DEPOT } })).toContain('no shop');
    expect(await words({ collect: null })).toContain('Where is');
    expect(await words({ ways: { 'CAR-SO': { way: 'take' } } })).toContain('taken along');
    expect(await words({ ways: { 'CAR-SO': { parts: [{ placeId: OSTLER, quantity: 500 }] } } })).toContain(
      'come from',
    );
    expect(await words({ ways: { 'CAR-SO': { way: 'ship' } } })).toContain('Who gets');
  });

  it('take deposits and give them back, and change day, time and address', async () => {
    const { answer } = await place(['MET-C'], {
      ways: { 'MET-C': { parts: [{ placeId: DEPOT, quantity: 1000 }] } },
    });
    const { id } = answer.body;
    expect((await payDeposit(test, noor, id, 1_000)).status).toBe(200);
    const { handover } = await look(id);
    const collect = {
      placeId: OSTLER,
      day: handover?.collect?.day ?? '',
      time: '15:30',
      collector: 'her brother',
    };
    let version = handover?.version ?? 0;
    const change = (body: object) =>
      noor.ask<PromiseView & ProblemDetails>(
        'PUT',
        `/waiting/orders/${id}/handover`,
        { ...body, version },
        { 'idempotency-key': newKey() },
      );
    expect((await change({ collect, ship: null })).body.handover?.collect).toMatchObject(collect);
    // Who has not seen that does not undo it.
    expect((await change({ collect: { ...collect, time: '16:00' }, ship: null })).body.type).toBe(
      'changed-meanwhile',
    );
    version = (await look(id)).handover?.version ?? 0;
    expect((await change({ collect: null, ship: SHIP })).status).toBe(422);
    expect((await change({ collect: { ...collect, placeId: QUAYSIDE }, ship: null })).status).toBe(422);
    const back = await giveUp(test, noor, customer, id, 0);
    expect(back.total).toBe(-1_000);
    expect((await look(id)).state).toBe('cancelled');
    expect(await differences()).toEqual([]);
  });

  it('are listed by what wants attention, by kind and by the place that picks', async () => {
    const page = async (query: string) =>
      (await noor.ask<PromisePage>('GET', `/waiting/promises?${query}`)).body.rows.map(
        ({ number }) => number,
      );
    expect(await page('kind=order&show=open')).toEqual(['O-0001']);
    expect(await page('kind=layaway&show=open')).toEqual([]);
    expect(await page(`show=open&place=${DEPOT}`)).toEqual(['O-0001']);
    expect(await page(`show=open&place=${QUAYSIDE}`)).toEqual([]);
    for (const at of ['2026-03-02', '2026-04-02', '2027-03-02']) {
      const [listed, all] = await test.house.database.ask(async (reader) => [
        await promiseList(reader, { show: 'attention', page: 0, words: [] }, at),
        await promiseList(reader, { show: 'all', page: 0, words: [] }, at),
      ]);
      const wanted = all.rows
        .filter((row) => {
          const { state, overdueDays } = rowOf(row, at);
          return wantsAttention(state, overdueDays, row.order);
        })
        .map(({ id }) => id);
      expect(listed.rows.map(({ id }) => id).toSorted()).toEqual(wanted.toSorted());
    }
  });

  it('are a calendar that calendar programs read, under a secret address', async () => {
    const [{ key } = { key: '' }] = await sql<{ key: string }>('select calendar_key as key from shop');
    const fetched = async (address: string) => {
      const answer = await fetch(`${test.url}/api/calendar/${address}`);
      return { status: answer.status, type: answer.headers.get('content-type'), text: await answer.text() };
    };
    expect((await fetched(`${'0'.repeat(64)}.ics`)).status).toBe(404);
    const { status, type, text } = await fetched(`${key}.ics`);
    expect([status, type]).toEqual([200, 'text/calendar; charset=utf-8']);
    const events = new ICAL.Component(ICAL.parse(text) as unknown[]).getAllSubcomponents('vevent');
    const found = events.map((event) => new ICAL.Event(event));
    expect(found.map(({ summary }) => summary)).toEqual(['O-0001 is collected']);
    const first = found[0]?.startDate.toJSDate() ?? new Date(0);
    const { handover } = await look(
      (await noor.ask<PromiseView>('GET', '/waiting/promises/numbered/O-0001')).body.id,
    );
    expect(businessDate(first, 'America/New_York')).toBe(handover?.collect?.day);
    expect(found[0]?.location).toContain('7 Ostler Lane');
    expect(text).not.toContain(customer.name);
  });
});

/** What an order that was refused has to be paid with: goods that are shipped, and their fee, with tax. */
async function dueFor({ wanted }: Awaited<ReturnType<typeof place>>): Promise<number> {
  const shipped = wanted.terms.lines.filter(({ way }) => way === 'ship').map(({ lineId }) => lineId);
  const goods = wanted.basket.lines.filter(({ id }) => shipped.includes(id));
  const { total } = await pricedAt(test, { id: newKey(), lines: goods });
  return total + FEE + Math.round(FEE * 0.075);
}
