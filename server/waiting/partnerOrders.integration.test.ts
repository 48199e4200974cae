import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { PromisePage, PromiseView } from '../../contract/promises.ts';
import type { PartnerMonth, RelayAlert } from '../../contract/relay.ts';
import { verify } from '../books/verify.ts';
import { atHub, passOn, PASSED, sayAtHub } from '../testing/hub.ts';
import { allLeft, handOver, lookAt, payDeposit } from '../testing/promising.ts';
import { ENGINE, openDrawer, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';

let test: TestHouse;
let noor: Browser;
let teo: Browser;

beforeAll(async () => {
  test = await openHouse('demo', { MONDREL_HUB: '0' });
  noor = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  teo = test.browser();
  await teo.signIn('2468', 3);
});
afterAll(() => test.stop());

const numbered = (number: string) => noor.ask<PromiseView>('GET', `/waiting/promises/numbered/${number}`);
/** Passes an order on. @returns it as it waits for an answer */
async function passed(number: string, change: Partial<typeof PASSED> = {}): Promise<PromiseView> {
  expect((await passOn(test, change)).status).toBe(303);
  await eventually(async () => expect((await numbered(number)).status).toBe(200));
  return (await numbered(number)).body;
}
const accept = (by: Browser, id: string, key = newKey()) =>
  by.ask<PromiseView & ProblemDetails>(
    'POST',
    `/waiting/relays/orders/${id}/accepted`,
    { words: 'With pleasure' },
    { 'idempotency-key': key },
  );
const alerts = async (by = noor) => (await by.ask<RelayAlert[]>('GET', '/waiting/relays/alerts')).body;
const hears = (number: string, words: string) =>
  eventually(async () => expect(await atHub(test, number)).toContain(words));
const differences = () => test.house.database.ask(verify);
const owedBy = async (code: string) =>
  (
    await test.house.database.ask((sql) =>
      sql.query<{ sum: number }>(
        `select coalesce(sum(amount), 0)::bigint as sum from ledger_entry
         where account = 'partner-clearing' and subject = (select 'partner:' || id from partner where code = $1)`,
        [code],
      ),
    )
  )[0]?.sum ?? 0;

describe(`orders that partners pass to the shop on ${ENGINE}`, () => {
  it('wait for an answer as an alert on every till, and nothing of them is done before', async () => {
    const view = await passed('CORRAN-1');
    expect(view).toMatchObject({
      state: 'asked',
      customer: 'Corran Music',
      placedAt: { name: 'Corran Music', reference: 'CORRAN-1' },
      held: 0,
      partnerOrder: { day: '2026-03-04', goods: PASSED.goods, card: 'Play on' },
      handover: { ship: { recipient: 'Aldous Penhale', wishes: 'Ring twice' } },
    });
    expect(await alerts(teo)).toMatchObject([
      { kind: 'order', number: view.number, partner: 'Corran Music' },
    ]);
    const { body: listed } = await noor.ask<PromisePage>(
      'GET',
      '/waiting/promises?show=attention&find=penhale',
    );
    expect(listed.rows.map(({ id }) => id)).toEqual([view.id]);
    const corran = listed.elsewhere.find(({ name }) => name === 'Corran Music')?.value ?? '';
    const { body: theirs } = await noor.ask<PromisePage>('GET', `/waiting/promises?placedAt=${corran}`);
    expect(theirs.rows.map(({ placedAt }) => placedAt?.name)).toEqual(['Corran Music']);
    expect((await noor.ask('GET', '/waiting/promises?placedAt=nowhere')).status).toBe(422);
    expect((await payDeposit(test, noor, view.id, 1_00)).status).not.toBe(200);
    expect((await handOver(test, noor, view.id, allLeft(view))).status).toBe(422);
    const excused = await noor.ask('POST', `/waiting/orders/${view.id}/excused`, { reason: 'in a hurry' });
    expect(excused.status).toBe(409);
    expect(await lookAt(noor, view.id)).toMatchObject({ state: 'asked', held: 0 });
  });

  it('accepted by one of two tills become orders that the partner owes, and delivered the partner is told', async () => {
    const view = (await numbered('corran-1')).body;
    const before = await owedBy('CORRAN');
    const key = newKey();
    const answers = await Promise.all([
      accept(noor, view.id, key),
      accept(noor, view.id, key),
      accept(teo, view.id),
    ]);
    expect(answers.filter(({ status }) => status === 200).length).toBeGreaterThan(0);
    expect(answers.some(({ status }) => status === 409)).toBe(true);
    expect(await owedBy('CORRAN')).toBe(before + view.total);
    expect(await alerts(teo)).toEqual([]);
    await hears('CORRAN-1', 'accepted, With pleasure');
    const accepted = await lookAt(noor, view.id);
    expect(accepted).toMatchObject({ state: 'ready', held: view.total, heldThere: view.total });
    expect((await handOver(test, noor, view.id, allLeft(accepted))).status).toBe(200);
    expect(await lookAt(noor, view.id)).toMatchObject({ state: 'shipped', held: 0 });
    await hears('CORRAN-1', 'delivered');
    expect(await differences()).toEqual([]);
  });

  it('voided after they were brought are not delivered, and the partner is told that as well', async () => {
    const { id } = await passed('TALLIS-1', { partner: 'TALLIS' });
    await accept(noor, id);
    const gone = await handOver(test, noor, id, allLeft(await lookAt(noor, id)));
    await hears('TALLIS-1', 'delivered');
    const maren = test.browser();
    await maren.signIn('3690', 1);
    const undone = await maren.ask('POST', `/journal/sales/${gone.body.id}/void`, { reason: 'not yet' });
    expect(undone.status).toBe(200);
    expect(await lookAt(noor, id)).toMatchObject({ state: 'ready' });
    await hears('TALLIS-1', 'It is not delivered yet');
    await noor.signIn('1357', 1);
    expect(await differences()).toEqual([]);
  });

  it('refused say why, and nothing is owed', async () => {
    const before = await owedBy('CORRAN');
    const { id } = await passed('CORRAN-2');
    const refused = await teo.ask<PromiseView>('POST', `/waiting/promises/${id}/cancelled`, {
      reason: 'No ukulele before Friday',
    });
    expect(refused.body.state).toBe('cancelled');
    await hears('CORRAN-2', 'refused, No ukulele before Friday');
    expect((await accept(noor, id)).status).toBe(409);
    expect(await owedBy('CORRAN')).toBe(before);
    expect(await alerts()).toEqual([]);
  });

  it('taken back by the partner are cancelled while nothing has left, and what both say comes in once', async () => {
    const before = await owedBy('CORRAN');
    const { id } = await passed('CORRAN-3');
    await sayAtHub(test, 'CORRAN-3', 'question', 'Is it a soprano?');
    await eventually(async () =>
      expect((await alerts()).map(({ kind }) => kind)).toEqual(['order', 'question']),
    );
    const words = { words: 'It is' };
    expect((await teo.ask('POST', `/waiting/relays/orders/${id}/replies`, words)).status).toBe(200);
    await hears('CORRAN-3', 'reply, It is');
    await accept(noor, id);
    await sayAtHub(test, 'CORRAN-3', 'withdrawn', 'They have changed their mind');
    await eventually(async () => expect((await lookAt(noor, id)).state).toBe('cancelled'));
    expect(await owedBy('CORRAN')).toBe(before);
    // What has left is not taken back.
    await sayAtHub(test, 'CORRAN-1', 'withdrawn');
    await hears('CORRAN-1', 'Too late: It was handed over.');
    expect((await numbered('CORRAN-1')).body.state).toBe('shipped');
    expect(await differences()).toEqual([]);
  });

  it('are refused by themselves where they cannot be taken at all', async () => {
    await passOn(test, { partner: 'NOBODY' });
    await hears('NOBODY-1', 'refused, NOBODY is no partner of this shop.');
    await passOn(test, { day: '2026-03-01' });
    await hears('CORRAN-4', 'refused, That day is over here.');
    await passOn(test, { goods: 'x'.repeat(501) });
    await hears('CORRAN-5', 'refused, At most 500 characters.');
    expect((await passOn(test, { recipient: '' })).status).toBe(422);
    expect((await passOn(test, { partner: '' })).status).toBe(422);
    expect((await numbered('CORRAN-4')).status).toBe(404);
  });

  it('that cannot be refused now hold no others up, and are refused once the hub can be reached', async () => {
    const closed = join(test.dataFolder, 'relay-hub', 'closed');
    writeFileSync(closed, '');
    await passOn(test, { partner: 'NOBODY' });
    const { id } = await passed('FARHARP-1', { partner: 'FARHARP' });
    expect(await atHub(test, 'NOBODY-2')).not.toContain('refused');
    rmSync(closed);
    await hears('NOBODY-2', 'refused, NOBODY is no partner of this shop.');
    await teo.ask('POST', `/waiting/promises/${id}/cancelled`, { reason: 'Nobody is free' });
  });

  it('wait over a restart, and come in once', async () => {
    await test.restart();
    await noor.signIn('1357', 1);
    await teo.signIn('2468', 3);
    const { id } = await passed('CORRAN-6');
    test.house.relaying.wake();
    test.house.relaying.wake();
    await accept(teo, id);
    await hears('CORRAN-6', 'accepted');
    const { body: all } = await noor.ask<PromisePage>('GET', '/waiting/promises?show=all&find=penhale');
    expect(all.rows.map(({ placedAt }) => placedAt?.reference).toSorted()).toEqual([
      'CORRAN-1',
      'CORRAN-2',
      'CORRAN-3',
      'CORRAN-6',
      'FARHARP-1',
      'TALLIS-1',
    ]);
  });

  it('are settled by month against what the partner delivered', async () => {
    const isolde = test.browser();
    await isolde.signIn('8024', 2);
    const months = (await isolde.ask<PartnerMonth[]>('GET', '/setup/partners/months')).body;
    const owed = await owedBy('CORRAN');
    expect(months).toMatchObject([
      { partner: 'Corran Music', passed: 3, delivered: 0, amount: -owed },
      { partner: 'Tallis & Reed', passed: 1, delivered: 0 },
    ]);
    const { body: text } = await isolde.ask<string>('GET', '/setup/partners/months/2026-03.csv');
    expect(text).toContain('A ukulele in a blue bag');
    const settled = await isolde.ask('POST', '/setup/partners/settled', {
      partnerId: months[0]?.partnerId,
      month: '2026-03',
    });
    expect(settled.status).toBe(200);
    expect(await owedBy('CORRAN')).toBe(0);
    expect(await differences()).toEqual([]);
  });
});
