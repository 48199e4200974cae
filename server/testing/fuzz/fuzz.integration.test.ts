import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { channelOrderSchema, quoteSchema } from '../../../contract/channels.ts';
import { claimSchema, finishSaleSchema, saveBasketSchema } from '../../../contract/counter.ts';
import { manyItemsSchema } from '../../../contract/goods.ts';
import { rehearsalSchema } from '../../../contract/offers.ts';
import { giveRefundSchema, takeTenderSchema } from '../../../contract/payment.ts';
import type { ProblemDetails } from '../../../contract/problem.ts';
import { placeRelaySchema } from '../../../contract/relay.ts';
import { refundPartsSchema } from '../../../contract/returns.ts';
import { countersignSchema } from '../../../contract/staff.ts';
import { roomRoutes } from '../../app.ts';
import { verify } from '../../books/verify.ts';
import { SIZES, sizeOf, UNKNOWN } from '../../http/body.ts';
import { ENGINE, openDrawer, openHouse, pay, ringUp, type Browser, type TestHouse } from '../testHouse.ts';
import { tenderFor, typesByKind } from '../paying.ts';
import { fullBody } from './full.ts';
import { attacker, routesOf, type Route } from './hostile.ts';

/** So many requests; more with MONDREL_FUZZ (`npm run fuzz`). The seed is fixed unless MONDREL_SEED says otherwise. */
const REQUESTS = Number(process.env.MONDREL_FUZZ ?? 1_500);
const SEED = Number(process.env.MONDREL_SEED ?? 20_260_302);
/** Words that belong to the database and its driver: no answer has them. */
const SQL_WORDS =
  /\b(syntax error|relation "|column "|violates|constraint|SQLSTATE|pg_|plpgsql|invalid input syntax|out of range for type)\b/i;

let house: TestHouse;
let browsers: Browser[];
let samples: object[];

beforeAll(async () => {
  house = await openHouse();
  const [nobody, cashier, manager] = [house.browser(), house.browser(), house.browser()];
  await cashier.signIn('1357', 1);
  await manager.signIn('8024', 2);
  await openDrawer(cashier);
  const sale = await ringUp(house, ['MET-C', 'PIC-M']);
  await pay(cashier, await ringUp(house, ['MET-C']));
  const types = await typesByKind(house);
  samples = [
    sale,
    { basket: sale.basket, revision: 0 },
    tenderFor(sale, types.get('cheque') ?? 0, { reference: '1' }),
    { basket: sale.basket, expectedTotal: -1, parts: [{ id: newId(), to: 'cash', amount: 1 }] },
    {
      pin: '999999',
      right: 'price.change',
      basketId: newId(),
      reason: 'x',
      covers: [{ subject: 'a', from: 1, to: 1, unit: 'money', amount: 1 }],
    },
    { kind: 'out', amount: 1, reason: 'x', person: '' },
    { pieces: { 100: 1 }, tillId: null, revision: 0, toStaffId: 2, note: '', others: [] },
    { id: newId(), basket: sale.basket, name: 'x', note: '', total: 1 },
    { name: 'x', kind: 'percent', value: 1, needsCustomer: false, groupId: null, phone: '', mail: '' },
    { from: '2026-03-02', to: '2026-03-02', find: 'x', page: 0 },
  ];
  browsers = [nobody, cashier, manager, manager];
});
afterAll(() => house.stop());

/** What signing in and out everywhere would do to the ones who attack. */
const LEFT_OUT = new Set(['DELETE /staff/session', 'POST /staff/sign-out-everywhere']);

/** What routes take that look at it before they write, or only look. */
const BEFORE_THEY_WRITE = [
  ['/counter/basket', saveBasketSchema],
  ['/counter/sales', finishSaleSchema],
  ['/counter/claims', claimSchema],
  ['/goods/changes/rehearsal', manyItemsSchema],
  ['/journal/sales/1/refund-parts', refundPartsSchema],
  ['/offers/rehearsals', rehearsalSchema],
  ['/payment/tenders', takeTenderSchema],
  ['/payment/refunds', giveRefundSchema],
  ['/staff/countersigns', countersignSchema],
  ['/waiting/relays', placeRelaySchema],
] as const;

describe(`whatever is sent on ${ENGINE}`, () => {
  it(
    `never makes the server stumble: ${REQUESTS} requests over every route`,
    { timeout: 120_000 + REQUESTS * 60 },
    async () => {
      const routes = routesOf(roomRoutes(house.house)).filter(
        ({ method, path }) => !LEFT_OUT.has(`${method} ${path}`),
      );
      expect(routes.length).toBeGreaterThan(100);
      const attack = attacker(SEED, samples);
      const stumbled: string[] = [];
      for (let at = 0; at < REQUESTS; at++) {
        const route = routes[at % routes.length] as Route;
        const { address, headers, body } = attack(route);
        const browser = browsers[at % browsers.length] as Browser;
        const answer = await browser.raw(route.method, address, headers, body);
        const words = `${route.method} ${route.path} (${address}) ${body?.slice(0, 200) ?? ''} → ${answer.status} ${answer.text.slice(0, 200)}`;
        if (answer.status >= 500) stumbled.push(words);
        if (answer.status < 400) continue;
        if (SQL_WORDS.test(answer.text)) stumbled.push(`SQL: ${words}`);
        const problem = JSON.parse(answer.text) as ProblemDetails;
        if (!problem.title || problem.status !== answer.status) stumbled.push(`no problem: ${words}`);
        // An answer never says again what was sent, but for a basket that it prices anew for the till.
        if (problem.type === 'figures-differ') continue;
        if (body && body.length > 400 && answer.text.includes(body.slice(20, 220)))
          stumbled.push(`echo: ${words}`);
      }
      expect(stumbled).toEqual([]);
      expect(await house.house.database.ask(verify)).toEqual([]);
    },
  );

  it('may be as large as it is said for an address that there is', () => {
    const paths = routesOf(roomRoutes(house.house))
      .filter(({ method }) => method !== 'GET')
      .map(({ path }) => path.replaceAll(/:\w+/g, '1'));
    expect(SIZES.filter(([address]) => !paths.some((path) => address.test(path)))).toEqual([]);
  });

  it('may be as large as what is asked for: lists as long as they may be come in', () => {
    const routes = routesOf(roomRoutes(house.house)).flatMap(({ path, takes }) =>
      takes ? [[path, takes] as const] : [],
    );
    expect(routes.length).toBeGreaterThan(80);
    const tooLarge = [...routes, ...BEFORE_THEY_WRITE].flatMap(([path, takes]) => {
      const size = JSON.stringify(fullBody(takes)).length;
      const most = sizeOf(path.replaceAll(/:\w+/g, '1'));
      return size > most ? [`${path}: ${size} of ${most}`] : [];
    });
    expect(tooLarge).toEqual([]);
    // Channels have a key, not somebody who is signed in.
    for (const takes of [quoteSchema, channelOrderSchema])
      expect(JSON.stringify(fullBody(takes)).length).toBeLessThanOrEqual(UNKNOWN);
  });

  it('is measured before it is looked at: a list of fifty thousand is refused at once', async () => {
    const [, cashier] = browsers;
    const lines = Array.from({ length: 50_000 }, () => 1);
    const sale = { basket: { id: newId(), lines }, expectedTotal: 1, handed: 1 };
    const refused = await cashier?.ask<ProblemDetails>('POST', '/counter/sales', sale);
    expect([refused?.status, refused?.body.fields]).toEqual([
      422,
      [{ field: 'basket.lines', message: 'basket.lines holds at most 500.' }],
    ]);
    const large = await browsers[0]?.raw(
      'POST',
      '/staff/session',
      { 'content-type': 'application/json', 'idempotency-key': newId() },
      JSON.stringify({ pin: '1'.repeat(2_000) }),
    );
    expect(large?.status).toBe(413);
  });
});
