import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { PromiseView } from '../../contract/promises.ts';
import type { PartnerAtTill, PartnerMonth, RelayAlert, RelayWanted } from '../../contract/relay.ts';
import type { BasketCustomer } from '../../core/counter/basket.ts';
import { verify } from '../books/verify.ts';
import { atHub, sayAtHub } from '../testing/hub.ts';
import { allLeft, giveUp, handOver, lookAt, payPromised, plainCustomer } from '../testing/promising.ts';
import { ENGINE, openDrawer, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';
import type { MadePromise } from './promising.ts';

let test: TestHouse;
let noor: Browser;
let teo: Browser;
let customer: BasketCustomer;
let partners: PartnerAtTill[];

beforeAll(async () => {
  test = await openHouse('demo', { MONDREL_HUB: '0' });
  noor = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  teo = test.browser();
  await teo.signIn('2468', 3);
  customer = await plainCustomer(test);
  partners = (await noor.ask<PartnerAtTill[]>('GET', '/waiting/relays/partners')).body;
});
afterAll(() => test.stop());

const partner = (code: string) => partners.find((one) => one.code === code)?.id ?? 0;
const WANTED = (): RelayWanted => ({
  partnerId: partner('CORRAN'),
  day: '2026-03-03',
  part: 40_00,
  recipient: 'Wilma Corrin',
  street: 'Mill Lane 3',
  postcode: '51200',
  city: 'Dunmere',
  phone: '555-0100',
  wishes: 'Ring twice',
  card: 'Play something tonight',
  goods: 'A set of violin strings, full size, and a rosin',
  price: 50_00,
});
const take = (terms: Partial<RelayWanted> = {}, key = newKey()) =>
  noor.ask<MadePromise & ProblemDetails>(
    'POST',
    '/waiting/relays',
    { customerId: customer.id, terms: { ...WANTED(), ...terms } },
    { 'idempotency-key': key },
  );
/** The next customer comes: what was rung up was paid under another number. */
const emptyTill = () => test.house.database.write((sql) => sql.query('delete from basket'));
/** Takes a relay and its money. */
async function paid(terms: Partial<RelayWanted> = {}): Promise<PromiseView> {
  const { status, body } = await take(terms);
  expect({ status, body }).toMatchObject({ status: 200 });
  expect(await payPromised(test, noor, body.stored?.basket.lines ?? [])).toMatchObject({ status: 200 });
  await emptyTill();
  return lookAt(noor, body.id);
}
const say = async (number: string, kind: string, words = '') =>
  expect(await sayAtHub(test, number, kind, words)).toBe(true);
const stands = (id: string, state: string) =>
  eventually(async () => expect((await lookAt(noor, id)).state).toBe(state));
const alerts = async (by = noor) => (await by.ask<RelayAlert[]>('GET', '/waiting/relays/alerts')).body;
const differences = () => test.house.database.ask(verify);
const balance = async (account: string) =>
  (
    await test.house.database.ask((sql) =>
      sql.query<{ sum: number }>(
        'select coalesce(sum(amount), 0)::bigint as sum from ledger_entry where account = $1',
        [account],
      ),
    )
  )[0]?.sum ?? 0;

describe(`relay on ${ENGINE}`, () => {
  it('goes out once it is paid, is accepted, delivered and booked: price, tax and the part of the partner are in the books', async () => {
    const key = newKey();
    const { body } = await take({}, key);
    expect((await take({}, key)).body.number).toBe(body.number);
    expect(await lookAt(noor, body.id)).toMatchObject({ state: 'begun', total: 53_75 });
    expect(await (await fetch(`${test.hub}/`)).text()).not.toContain(body.number);
    expect(await payPromised(test, noor, body.stored?.basket.lines ?? [])).toMatchObject({ status: 200 });
    await emptyTill();
    await stands(body.id, 'sent');
    await say(body.number, 'question', 'Which rosin?');
    await eventually(async () =>
      expect(await alerts()).toMatchObject([{ kind: 'question', words: 'Which rosin?' }]),
    );
    const replied = await teo.ask<PromiseView>('POST', `/waiting/relays/${body.id}/replies`, {
      words: 'The light one',
    });
    expect(replied.status).toBe(200);
    await eventually(async () =>
      expect(await (await fetch(`${test.hub}/`)).text()).toContain('The light one'),
    );
    await say(body.number, 'accepted');
    await stands(body.id, 'accepted');
    // While a partner carries it out it is neither booked nor given up.
    const view = await lookAt(noor, body.id);
    expect((await handOver(test, noor, body.id, allLeft(view))).status).toBe(422);
    expect((await giveUp(test, noor, customer, body.id, 0)).answer.body.finished).toBeFalsy();
    const owed = await balance('partner-clearing');
    await say(body.number, 'delivered');
    await stands(body.id, 'delivered');
    expect(await balance('partner-clearing')).toBe(owed - 40_00);
    expect((await handOver(test, noor, body.id, allLeft(view))).status).toBe(200);
    expect(await lookAt(noor, body.id)).toMatchObject({ state: 'handed', held: 0 });
    expect((await lookAt(noor, body.id)).relay?.tries[0]?.messages.map(({ kind }) => kind)).toEqual([
      'question',
      'reply',
      'accepted',
      'delivered',
    ]);
    expect(await differences()).toEqual([]);
  });

  it('is refused before sending, in words, where the partner does not do it', async () => {
    const refused: [Partial<RelayWanted>, string][] = [
      [{ day: '2026-03-01' }, 'That day is over'],
      [{ day: '2026-03-08' }, 'delivers nothing on Sundays'],
      [{ partnerId: partner('TALLIS') }, 'does not deliver there'],
      [{ part: 50_01 }, 'no more than the customer pays'],
      [{ goods: '' }, 'What is wanted?'],
      // 10:00 in New York is 09:00 in Chicago: not too late there.
      [{ partnerId: 999 }, 'There is no such partner'],
    ];
    for (const [terms, words] of refused) {
      const { status, body } = await take(terms);
      expect(status).toBe(422);
      expect(JSON.stringify(body)).toContain(words);
    }
    await test.house.database.write((sql) =>
      sql.query(`update partner set cut_offs = jsonb_set(cut_offs, '{0}', '"09:30"') where code = 'CORRAN'`),
    );
    const late = await take({ day: '2026-03-02' });
    expect(JSON.stringify(late.body)).toContain(
      'Too late for today: Corran Music takes orders until 9:30 AM, and it is 10:00 AM there.',
    );
    expect((await take({ day: '2026-03-02', partnerId: partner('FARHARP') })).status).toBe(200);
    await emptyTill();
  });

  it('after a refusal is sent again without typing anything again; what was tried stays', async () => {
    const { id, number } = await paid();
    await stands(id, 'sent');
    await say(number, 'refused', 'Out of strings');
    await stands(id, 'refused');
    const again = await noor.ask<PromiseView & ProblemDetails>('POST', `/waiting/relays/${id}/sent`, {
      partnerId: partner('FARHARP'),
      day: '2026-03-04',
      part: 42_50,
    });
    expect(again.status).toBe(200);
    await stands(id, 'sent');
    const { relay } = await lookAt(noor, id);
    expect(relay).toMatchObject({ recipient: 'Wilma Corrin', goods: WANTED().goods });
    expect(relay?.tries).toMatchObject([
      { partner: 'Far Harp Delivery', day: '2026-03-04', state: 'sent' },
      { partner: 'Corran Music', state: 'refused', messages: [{ kind: 'refused', words: 'Out of strings' }] },
    ]);
    // Sent twice it goes to one partner.
    const twice = await noor.ask<ProblemDetails>('POST', `/waiting/relays/${id}/sent`, {
      partnerId: partner('CORRAN'),
      day: '2026-03-04',
      part: 1,
    });
    expect(twice.status).toBe(409);
    expect(await differences()).toEqual([]);
  });

  it('waits while the hub cannot be reached, also over a restart, and what is said comes in once', async () => {
    const closed = join(test.dataFolder, 'relay-hub', 'closed');
    writeFileSync(closed, '');
    const { id, number } = await paid();
    await eventually(async () =>
      expect((await lookAt(noor, id)).relay?.tries[0]).toMatchObject({
        state: 'waiting',
        trouble: 'The hub cannot be reached.',
      }),
    );
    rmSync(closed);
    await test.house.database.write((sql) =>
      sql.query('update relay_try set try_at = null where promise_id = $1', [id]),
    );
    await test.restart();
    await noor.signIn('1357', 1);
    await teo.signIn('2468', 3);
    await stands(id, 'sent');
    await say(number, 'accepted');
    await say(number, 'accepted');
    await stands(id, 'accepted');
    test.house.relaying.wake();
    test.house.relaying.wake();
    await eventually(async () => expect((await lookAt(noor, id)).relay?.tries[0]?.messages).toHaveLength(2));
    // What a partner says late still counts.
    await say(number, 'refused', 'After all not');
    await stands(id, 'refused');
    expect(await differences()).toEqual([]);
  });

  it('given up gives the money back, and its partner is told', async () => {
    const { id, number, total } = await paid();
    await stands(id, 'sent');
    const { total: back, answer } = await giveUp(test, noor, customer, id, 0);
    expect(back).toBe(-total);
    expect(answer.body.finished).toBeTruthy();
    expect(await lookAt(noor, id)).toMatchObject({ state: 'cancelled', held: 0 });
    await eventually(async () => {
      expect(await atHub(test, number)).toContain('withdrawn');
    });
    // What comes too late changes nothing.
    await say(number, 'accepted');
    await eventually(async () => expect((await lookAt(noor, id)).relay?.tries[0]?.messages).toHaveLength(2));
    expect(await lookAt(noor, id)).toMatchObject({ state: 'cancelled' });
    expect(await differences()).toEqual([]);
  });

  it('given up while the hub was being asked is taken back there: it may have got it', async () => {
    const closed = join(test.dataFolder, 'relay-hub', 'closed');
    writeFileSync(closed, '');
    const { id } = await paid();
    await eventually(async () => expect((await lookAt(noor, id)).relay?.tries[0]?.trouble).not.toBe(''));
    expect((await giveUp(test, noor, customer, id, 0)).answer.body.finished).toBeTruthy();
    const withdrawn = { kind: 'withdrawn' };
    expect((await lookAt(noor, id)).relay?.tries[0]).toMatchObject({
      state: 'withdrawn',
      messages: [withdrawn],
    });
    rmSync(closed);
    // What nobody was asked for has nothing to be taken back.
    const unpaid = await take();
    await emptyTill();
    await noor.ask('POST', `/waiting/promises/${unpaid.body.id}/cancelled`, { reason: 'changed her mind' });
    expect((await lookAt(noor, unpaid.body.id)).relay?.tries[0]).toMatchObject({
      state: 'withdrawn',
      messages: [],
    });
    expect(await differences()).toEqual([]);
  });

  it('makes alerts that one till opens or puts away for all, and who did it is kept', async () => {
    const all = await alerts(teo);
    expect(all.length).toBeGreaterThan(2);
    const [first, second] = all;
    const close = (by: Browser, id: number | undefined, opened: boolean) =>
      by.ask('POST', `/waiting/relays/alerts/${id ?? 0}/closed`, { opened });
    await Promise.all([
      close(teo, first?.id, true),
      close(noor, first?.id, false),
      close(noor, second?.id, false),
    ]);
    expect((await alerts()).map(({ id }) => id)).toEqual(all.slice(2).map(({ id }) => id));
    const [kept] = await test.house.database.ask((sql) =>
      sql.query<{ name: string }>(
        'select staff.name from relay_message join staff on staff.id = closed_by where relay_message.id = $1',
        [second?.id ?? 0],
      ),
    );
    expect(kept?.name).toBe('Noor A.');
  });

  it('is settled with each partner by month, once, and listed as CSV', async () => {
    const isolde = test.browser();
    await isolde.signIn('8024', 2);
    const months = (await isolde.ask<PartnerMonth[]>('GET', '/setup/partners/months')).body;
    expect(months).toMatchObject([
      { partner: 'Corran Music', month: '2026-03', delivered: 1, amount: 40_00, settledAt: null },
    ]);
    const settle = (key = newKey()) =>
      isolde.ask<ProblemDetails>(
        'POST',
        '/setup/partners/settled',
        { partnerId: partner('CORRAN'), month: '2026-03' },
        { 'idempotency-key': key },
      );
    const key = newKey();
    await Promise.all([settle(key), settle(key)]);
    expect((await settle()).status).toBe(422);
    expect(await balance('partner-clearing')).toBe(0);
    const { body: text } = await isolde.ask<string>('GET', '/setup/partners/months/2026-03.csv');
    expect(text).toContain('R-0001,Corran Music,CORRAN');
    expect(text).toContain('40.00');
    expect((await noor.ask('GET', '/setup/partners/months')).status).toBe(403);
    expect(await differences()).toEqual([]);
  });
});
