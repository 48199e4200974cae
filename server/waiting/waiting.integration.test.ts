import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { StoredBasket } from '../../contract/counter.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { HeldBasket } from '../../contract/waiting.ts';
import { TEST_NOW } from '../testing/globalSetup.ts';
import { addHeld } from './store.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../testing/testHouse.ts';

let test: TestHouse;
let noor: Browser;
let teo: Browser;

beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  teo = test.browser();
  await noor.signIn('1357', 1);
  await teo.signIn('2468', 2);
});
afterAll(() => test.stop());

const waiting = async () => (await noor.ask<HeldBasket[]>('GET', '/waiting/held')).body;
const take = (browser: Browser, id: string) =>
  browser.ask<StoredBasket & ProblemDetails>('POST', `/waiting/held/${id}/taken`, {});

async function hold(name: string, more: object = {}) {
  const { basket, expectedTotal: total } = await ringUp(test, ['CLA-0220', 'PIC-M']);
  const body = { basket, name, note: '', total, forTill: null, ...more };
  return { body, answer: await noor.ask<{ number: string }>('POST', '/waiting/held', body) };
}

describe(`held baskets on ${ENGINE}`, () => {
  it('wait with name, note, who and when, through a restart', async () => {
    const { body, answer } = await hold('Priya', { note: 'fetching her purse', forTill: 3 });
    expect(answer.body.number).toBe('W-0001');
    await test.restart();
    expect(await waiting()).toMatchObject([
      {
        number: 'W-0001',
        name: 'Priya',
        note: 'fetching her purse',
        heldBy: 'Noor A.',
        heldOn: 1,
        forTill: 3,
        total: body.total,
      },
    ]);
    expect((await noor.ask('GET', '/counter/basket')).body).toBeNull();
  });

  it('print a ticket with their number', async () => {
    const [ticket] = await eventually(async () => {
      const { body } = await noor.ask<{ text: string }[]>('GET', '/printer/papers');
      expect(body.length).toBeGreaterThan(0);
      return body;
    });
    expect(ticket?.text).toContain('PRIYA');
    expect(ticket?.text).toContain('*W-0001*');
  });

  it('are held once, however often it is asked for', async () => {
    const { basket, expectedTotal: total } = await ringUp(test, ['MET-C']);
    const body = { basket, name: 'Sam', note: '', total, forTill: null };
    const key = { 'idempotency-key': newKey() };
    const answers = await Promise.all([1, 2, 3].map(() => noor.ask('POST', '/waiting/held', body, key)));
    expect(new Set(answers.map((answer) => JSON.stringify(answer.body))).size).toBe(1);
    expect((await waiting()).filter(({ name }) => name === 'Sam')).toHaveLength(1);
  });

  it('go to one till of two that want them, and the other is told who has it', async () => {
    const [held] = await waiting();
    const [a, b] = await Promise.all([take(noor, held?.id ?? ''), take(teo, held?.id ?? '')]);
    expect([a.status, b.status].sort()).toEqual([200, 409]);
    const [won, lost] = a.status === 200 ? [a, b] : [b, a];
    expect(won.body.basket.lines.map(({ number }) => number)).toEqual(['CLA-0220', 'PIC-M']);
    expect([lost.body.type, lost.body.title]).toEqual([
      'basket-taken',
      `${a.status === 200 ? 'Noor A.' : 'Teo V.'} has taken Priya up on till ${a.status === 200 ? 1 : 2}.`,
    ]);
  });

  it('are not brought back by what their till had sent before', async () => {
    const { body } = await hold('Ash');
    const late = await noor.ask<ProblemDetails>('PUT', '/counter/basket', {
      basket: body.basket,
      revision: 0,
    });
    expect([late.status, late.body.type]).toEqual([409, 'basket-held']);
  });

  it('do not push aside what a till is ringing up', async () => {
    const { body } = await hold('Kai');
    const { basket } = await ringUp(test, ['MET-C']);
    const stored = (await teo.ask<StoredBasket | null>('GET', '/counter/basket')).body;
    await teo.ask('PUT', '/counter/basket', { basket, revision: stored?.revision ?? 0 });
    const held = (await waiting()).find(({ name }) => name === 'Kai');
    const refused = await take(teo, held?.id ?? '');
    expect([refused.status, refused.body.type]).toEqual([409, 'basket-not-empty']);
    expect((await waiting()).some(({ basket: one }) => one.id === body.basket.id)).toBe(true);
  });

  it('cannot be held empty, after they were paid, or when there is none', async () => {
    await openDrawer(noor);
    const sale = await ringUp(test, ['MET-C']);
    await pay(noor, sale);
    const paid = await noor.ask('POST', '/waiting/held', {
      basket: sale.basket,
      name: '',
      note: '',
      total: 1,
      forTill: null,
    });
    expect(paid.status).toBe(409);
    const empty = { basket: { id: newKey(), lines: [] }, name: '', note: '', total: 0, forTill: null };
    expect((await noor.ask('POST', '/waiting/held', empty)).status).toBe(422);
    expect((await take(noor, newKey())).status).toBe(404);
    expect((await take(noor, 'none')).status).toBe(404);
  });

  it('are counted without gaps: the number of what came to nothing is given again', async () => {
    const { body, answer } = await hold('Ada');
    const next = Number(answer.body.number.slice(2)) + 1;
    const basket = { ...body.basket, id: newKey() };
    const wanted = { ...body, basket, note: '', forTill: null, id: newKey() };
    const lost = test.house.database.write(async (sql) => {
      const ticket = await addHeld(sql, wanted, { staffId: 1, tillId: 1, at: new Date(TEST_NOW) });
      throw new Error(`ticket ${ticket} is lost`);
    });
    await expect(lost).rejects.toThrow(`ticket ${next} is lost`);
    const { answer: after } = await hold('Bo');
    expect(Number(after.body.number.slice(2))).toBe(next);
  });
});
