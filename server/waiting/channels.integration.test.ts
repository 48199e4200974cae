import { createHash } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import { late } from '../../contract/testing/late.ts';
import type { ChannelOrder, ChannelState, Quote } from '../../contract/channels.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { PromisePage, PromiseView } from '../../contract/promises.ts';
import { DEMO_CHANNEL_KEY } from '../../demo/data/channels.ts';
import { isSigned, SIGNATURE_HEADER } from '../../devices/webShop/tell.ts';
import { verify } from '../books/verify.ts';
import { askAsChannel, orderThere } from '../testing/channel.ts';
import { allLeft, giveUp, handOver, lookAt, payDeposit } from '../testing/promising.ts';
import { ENGINE, openDrawer, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';
import { noteChanges } from './channelMessages.ts';

type Told = ChannelState & { message: number };

let test: TestHouse;
let noor: Browser;
let maren: Browser;
/** The channel's own side: what it was told, as long as it listens. */
let listener: Server;
const told: Told[] = [];
let listens = true;
const secret = createHash('sha256').update(DEMO_CHANNEL_KEY).digest('hex');

beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  maren = test.browser();
  await maren.signIn('3690', 3);
  await openDrawer(maren);
  listener = createServer((request, response) => {
    let body = '';
    request.on('data', (part: Buffer) => (body += part.toString()));
    request.on('end', () => {
      const signature = String(request.headers[SIGNATURE_HEADER]);
      if (listens && isSigned(body, signature, secret)) told.push(JSON.parse(body) as Told);
      // The house's clock stands still: what a line that is closed just then had lost would never be told again.
      response.writeHead(listens ? 204 : 503, { connection: 'close' }).end();
    });
  });
  await new Promise<void>((done) => listener.listen(0, done));
  await introduce();
});
afterAll(async () => {
  listener.close();
  await test.stop();
});

const channel = <T = ChannelState & ProblemDetails>(
  method: string,
  path: string,
  body?: object,
  key?: string,
): Promise<{ status: number; body: T }> => askAsChannel<T>(test, method, path, body, key);
const introduce = () =>
  channel('PUT', '/address', { address: `http://localhost:${(listener.address() as AddressInfo).port}/` });
const quote = async (lines: { number: string; quantity: number }[], postcode: string | null = null) =>
  (await channel<Quote>('POST', '/quotes', { lines, postcode })).body;

const orderOf = (change: Partial<ChannelOrder> = {}, units = 1) =>
  orderThere(test, change, [['PAD-08', units]]);
const send = (order: ChannelOrder) => channel('POST', '/orders', order);
async function taken(order: ChannelOrder): Promise<PromiseView> {
  const { status, body } = await send(order);
  expect({ status, body }).toMatchObject({ status: 200 });
  const page = await noor.ask<PromisePage>('GET', `/waiting/promises?show=all&find=${order.reference}`);
  return lookAt(noor, page.body.rows[0]?.id ?? '');
}
const differences = () => test.house.database.ask(verify);
const owed = async () =>
  (
    await test.house.database.ask((sql) =>
      sql.query<{ owed: number }>(
        "select coalesce(sum(amount), 0)::bigint as owed from ledger_entry where account = 'channel-clearing'",
      ),
    )
  )[0]?.owed;
const lastTold = (reference: string) => told.filter((one) => one.reference === reference).at(-1);
const pick = (view: PromiseView) =>
  noor.ask('POST', `/waiting/orders/${view.id}/steps`, { what: 'pick', placeId: 1 });

describe(`orders placed elsewhere, on ${ENGINE}`, () => {
  it('come in once however often they are sent, with what was paid there', async () => {
    const before = await owed();
    const order = await orderOf();
    const answers = await Promise.all([send(order), send(order), send(order)]);
    for (const { status, body } of answers) {
      expect(status).toBe(200);
      expect(body).toMatchObject({ reference: order.reference, state: 'placed', open: 0 });
      expect(body.number).toBe(answers[0].body.number);
    }
    const view = await taken(order);
    expect(view).toMatchObject({
      customer: 'Ottilie Brandreth',
      held: order.total,
      heldThere: order.total,
      total: order.total,
      placedAt: { name: 'Web shop', reference: order.reference },
    });
    expect(await owed()).toBe((before ?? 0) + order.total);
    // Sent again by somebody else it is the same customer.
    expect((await taken(await orderOf())).customerId).toBe(view.customerId);
    expect(await differences()).toEqual([]);
  });

  it('are refused in words where they cannot be', async () => {
    const order = await orderOf();
    expect((await send(order)).status).toBe(200);
    const refused: [Partial<ChannelOrder>, string][] = [
      [{ reference: order.reference, note: 'another' }, 'Another order'],
      [{ reference: 'ABC-1' }, 'begins with WEB-'],
      [{ total: order.total - 1 }, 'It comes to'],
      [{ lines: [{ number: 'NO-SUCH', quantity: 1, unitPrice: 1 }] }, 'cannot be ordered here'],
      [{ collect: null }, 'either collected or shipped'],
      [{ collect: { placeId: 1, day: '2026-03-01', time: '12:00', collector: '' } }, 'cannot be ready'],
      [{ payment: { reference: 'x', amount: order.total + 1 } }, 'only'],
    ];
    for (const [change, words] of refused) {
      const { status, body } = await send({ ...order, reference: 'WEB-9999', ...change });
      expect(status).toBeGreaterThanOrEqual(400);
      expect(JSON.stringify(body)).toContain(words);
    }
    expect((await channel('GET', '/goods', undefined, 'f'.repeat(64))).status).toBe(401);
    expect((await noor.ask('GET', '/channel/goods')).status).toBe(401);
    expect(await differences()).toEqual([]);
  });

  it('tell their channel how they stand until they are handed over, and both sides agree', async () => {
    const order = await orderOf();
    const view = await taken(order);
    await eventually(() => expect(lastTold(order.reference)).toMatchObject({ state: 'placed' }));
    await pick(view);
    await eventually(() => expect(lastTold(order.reference)).toMatchObject({ state: 'ready' }));
    expect(await handOver(test, noor, view.id, allLeft(view))).toMatchObject({ status: 200 });
    await eventually(() => expect(lastTold(order.reference)).toMatchObject({ state: 'handed', open: 0 }));
    const { body } = await channel('GET', `/orders/${order.reference}`);
    expect(lastTold(order.reference)).toMatchObject(body);
    expect(await differences()).toEqual([]);
  });

  it('are told again what a channel did not hear, in order, when it hears again', async () => {
    listens = false;
    const order = await orderOf();
    const view = await taken(order);
    const untold = async () => (await lookAt(noor, view.id)).told;
    await eventually(async () =>
      expect(await untold()).toMatchObject([
        { state: 'placed', toldAt: null, tries: 1, trouble: 'It answers with 503.' },
      ]),
    );
    await pick(view);
    await eventually(async () => expect(await untold()).toHaveLength(2));
    expect(lastTold(order.reference)).toBeUndefined();
    listens = true;
    await test.restart();
    await noor.signIn('1357', 1);
    await maren.signIn('3690', 3);
    await introduce();
    await eventually(() =>
      expect(told.filter(({ reference }) => reference === order.reference).map(({ state }) => state)).toEqual(
        ['placed', 'ready'],
      ),
    );
    // The channel has heard before it is noted that it has.
    await eventually(async () => expect((await untold()).every(({ toldAt }) => toldAt !== null)).toBe(true));
  });

  it('without their deposit are not handed over until somebody excuses it, with a reason', async () => {
    const order = await orderOf({ payment: null, trouble: 'The card was refused.' });
    const view = await taken(order);
    expect(view).toMatchObject({ state: 'begun', held: 0, firstPayment: Math.round(order.total / 4) });
    expect(view.events.map(({ what }) => what)).toContain('Not paid there');
    const refused = await handOver(test, noor, view.id, allLeft(view));
    expect(refused.status).toBe(422);
    expect(JSON.stringify(refused.body)).toContain('deposit');
    const excuse = (by: Browser, reason: string) =>
      by.ask<PromiseView & ProblemDetails>('POST', `/waiting/orders/${view.id}/excused`, { reason });
    expect((await excuse(noor, 'known customer')).body.type).toBe('countersign-needed');
    expect((await excuse(maren, '')).status).toBe(422);
    expect((await excuse(maren, 'known customer')).body).toMatchObject({ state: 'placed', firstPayment: 0 });
    expect((await excuse(maren, 'twice')).status).toBe(409);
    await pick(view);
    expect(await handOver(test, noor, view.id, allLeft(view))).toMatchObject({ status: 200 });
    await eventually(() => expect(lastTold(order.reference)).toMatchObject({ state: 'handed' }));
    expect(await differences()).toEqual([]);
  });

  it('take payments that come later once, and no more than is left', async () => {
    const order = await orderOf({ payment: null });
    const view = await taken(order);
    const pay = (reference: string, amount: number) =>
      channel('POST', `/orders/${order.reference}/payments`, { reference, amount });
    const half = Math.floor(order.total / 2);
    await Promise.all([pay('first', half), pay('first', half)]);
    expect(await lookAt(noor, view.id)).toMatchObject({ held: half, state: 'placed' });
    expect((await pay('first', half + 1)).status).toBe(409);
    expect((await pay('second', order.total)).status).toBe(409);
    expect((await pay('second', order.total - half)).body).toMatchObject({ open: 0 });
    expect(await differences()).toEqual([]);
  });

  it('cancelled there give back there what was paid there, once', async () => {
    const before = await owed();
    const order = await orderOf();
    const view = await taken(order);
    const cancel = () => channel('POST', `/orders/${order.reference}/cancelled`, {});
    const [first, second] = await Promise.all([cancel(), cancel()]);
    for (const { status, body } of [first, second]) {
      expect(status).toBe(200);
      expect(body).toMatchObject({ state: 'cancelled', givenBack: order.total });
    }
    expect(await lookAt(noor, view.id)).toMatchObject({ state: 'cancelled', held: 0 });
    expect(await owed()).toBe(before);
    await eventually(() =>
      expect(lastTold(order.reference)).toMatchObject({ state: 'cancelled', givenBack: order.total }),
    );
    expect(await differences()).toEqual([]);
  });

  it('cancelled there while they are handed over here: one wins, and the other is told', async () => {
    for (let round = 0; round < 4; round++) {
      const order = await orderOf();
      const view = await taken(order);
      await pick(view);
      const cancel = () => channel('POST', `/orders/${order.reference}/cancelled`, {});
      const hand = () => handOver(test, noor, view.id, allLeft(view));
      const [there, here] =
        round % 2 === 0
          ? await Promise.all([cancel(), hand()])
          : await Promise.all([hand(), cancel()]).then(([a, b]) => [b, a] as const);
      expect([there.status, here.status].filter((status) => status === 200)).toHaveLength(1);
      const { state } = await lookAt(noor, view.id);
      expect(state).toBe(here.status === 200 ? 'handed' : 'cancelled');
      if (there.status !== 200) expect(there.body.title).toContain('handed over');
      await eventually(() => expect(lastTold(order.reference)).toMatchObject({ state }));
    }
    expect(await differences()).toEqual([]);
  });

  it('are looked at after what happens to them just then, also where there was something to look at already', async () => {
    const view = await taken(await orderOf());
    const { database, clock } = test.house;
    const mark = 'update channel_order set changed = true where promise_id = $1';
    await database.write((sql) => sql.query(mark, [view.id]));
    const done: string[] = [];
    const [changed, seen] = [late<true>(), late<true>()];
    const changing = database
      .write(async (sql) => {
        await sql.query('update promise set id = id where id = $1', [view.id]);
        changed.come(true);
        await seen.promise;
      })
      .then(() => done.push('changed'));
    await changed.promise;
    const looking = database.write((sql) => noteChanges(sql, clock.now())).then(() => done.push('looked at'));
    const waits = 'select count(*)::int as count from pg_locks where not granted';
    // The embedded database does one after the other.
    if (ENGINE === 'postgres')
      await Promise.race([
        looking,
        eventually(async () =>
          expect(await database.ask((sql) => sql.query(waits))).not.toEqual([{ count: 0 }]),
        ),
      ]);
    seen.come(true);
    await Promise.all([changing, looking]);
    expect(done).toEqual(['changed', 'looked at']);
  });

  it('cancelled here give back at the till what was paid there at the till, and there what was paid there', async () => {
    const order = await orderOf({ payment: { reference: 'some', amount: 10_00 } });
    const view = await taken(order);
    expect(await payDeposit(test, noor, view.id, 5_00)).toMatchObject({ status: 200 });
    // Two sides hold money: it is not cancelled there any more.
    expect((await channel('POST', `/orders/${order.reference}/cancelled`, {})).body.title).toContain(
      'at the shop',
    );
    const customer = { id: view.customerId, name: view.customer };
    const { total, answer } = await giveUp(test, maren, customer, view.id, 0);
    expect(total).toBe(-5_00);
    expect(answer.body.finished).toBeTruthy();
    expect(await lookAt(noor, view.id)).toMatchObject({ state: 'cancelled', held: 0 });
    await eventually(() =>
      expect(lastTold(order.reference)).toMatchObject({ state: 'cancelled', givenBack: 10_00 }),
    );
    // What only the channel holds is given up without a till.
    const other = await taken(await orderOf());
    const dropped = await noor.ask('POST', `/waiting/promises/${other.id}/cancelled`, {
      reason: 'not wanted',
    });
    expect(dropped.body).toMatchObject({ state: 'cancelled', held: 0 });
    expect(await differences()).toEqual([]);
  });

  it('are shipped with the fee that was said, and come from where the goods are', async () => {
    const lines = [{ number: 'PAD-08', quantity: 1 }];
    const { fee, total, lines: priced } = await quote(lines, '51200');
    expect(fee).toBeGreaterThan(0);
    const order = await orderOf({
      collect: null,
      ship: {
        recipient: 'Wilma Corrin',
        street: 'Mill Lane 3',
        postcode: '51200',
        city: 'Dunmere',
        phone: '',
        wishes: '',
        gift: false,
      },
      lines: priced.map(({ number, quantity, unitPrice }) => ({ number, quantity, unitPrice })),
      fee,
      total,
      payment: { reference: 'ship', amount: total },
    });
    const view = await taken(order);
    expect(view).toMatchObject({ held: total, handover: { ship: { recipient: 'Wilma Corrin' } } });
    expect(view.lines.map(({ name }) => name)).toContain('Shipping');
    expect((await channel('POST', '/quotes', { lines: [], postcode: null })).status).toBe(422);
    expect(await differences()).toEqual([]);
  });

  it('ask for more than there is: what is missing is short', async () => {
    const view = await taken(await orderOf({}, 900));
    expect(view.state).toBe('short');
    expect(await differences()).toEqual([]);
  });

  it('are paid out by their channel, no more than it owes, and it is in the books', async () => {
    const isolde = test.browser();
    await isolde.signIn('8024', 2);
    const settle = (gross: number, fees: number, key = newId()) =>
      isolde.ask<ProblemDetails>(
        'POST',
        '/setup/channels/1/settled',
        { gross, fees },
        { 'idempotency-key': key },
      );
    const debt = (await owed()) ?? 0;
    expect((await settle(debt + 1, 0)).status).toBe(422);
    expect((await settle(10_00, 11_00)).status).toBe(422);
    const key = newId();
    await Promise.all([settle(10_00, 30, key), settle(10_00, 30, key)]);
    expect(await owed()).toBe(debt - 10_00);
    expect(await differences()).toEqual([]);
  });

  it('go on under a new key, and the old one is dead', async () => {
    const isolde = test.browser();
    await isolde.signIn('8024', 2);
    const key = '0'.repeat(63) + '1';
    expect((await isolde.ask('PUT', '/setup/channels/1/key', { key })).status).toBe(200);
    expect((await channel('GET', '/goods')).status).toBe(401);
    expect((await channel('GET', '/goods', undefined, key)).status).toBe(200);
    const off = { name: 'Web shop', prefix: 'WEB', pay: 'deposit', leastDeposit: 250_000, active: false };
    expect((await isolde.ask('PUT', '/setup/channels/1', { ...off, prefix: 'SHOP' })).status).toBe(422);
    expect((await isolde.ask('PUT', '/setup/channels/1', off)).status).toBe(200);
    expect((await channel('GET', '/goods', undefined, key)).status).toBe(403);
    const kept = await test.house.database.ask((sql) =>
      sql.query<{ all: string }>('select string_agg(answer::text, $1) as all from idempotency', [' ']),
    );
    expect(kept[0]?.all).not.toContain(key);
  });
});
