import { extractText } from 'unpdf';
import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { FinishedSale } from '../../contract/counter.ts';
import type { FoundCode, KeptOffer, OfferDraft, Rehearsal } from '../../contract/offers.ts';
import type { CustomerPanel, FoundCustomer } from '../../contract/people.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { verify } from '../books/verify.ts';
import { offerLabels } from './labels.ts';
import { ENGINE, openDrawer, openHouse, ringUp, type Browser, type TestHouse } from '../testing/testHouse.ts';

let test: TestHouse;
let noor: Browser;
let teo: Browser;
let isolde: Browser;
beforeAll(async () => {
  test = await openHouse();
  [noor, teo, isolde] = [test.browser(), test.browser(), test.browser()];
  await noor.signIn('1357', 1);
  await teo.signIn('2468', 2);
  await isolde.signIn('8024', 3);
  await openDrawer(noor);
  await openDrawer(teo);
});
afterAll(async () => {
  expect(await test.house.database.ask(verify)).toEqual([]);
  await test.stop();
});

const problemOf = ({ body }: { body: unknown }) => body as ProblemDetails;

const PLAIN: OfferDraft = {
  name: 'Stands',
  rule: {
    kind: 'each',
    goods: { itemIds: [], categories: ['Stands'] },
    off: { kind: 'percent', rate: 100_000 },
  },
  combines: false,
  conditions: { from: null, to: null, weekdays: [], hours: null, placeIds: [], groups: [], minimum: 0 },
  limits: { perSale: null, perCustomer: null, total: null },
  needs: 'nothing',
  points: 0,
};

/** Keeps an offer, adds a code where it needs one, and switches it on. */
async function live(offer: Partial<OfferDraft>, code = ''): Promise<number> {
  const kept = await isolde.ask<{ id: number }>('POST', '/offers', { ...PLAIN, ...offer });
  expect(kept.status).toBe(200);
  if (code) await isolde.ask('POST', `/offers/${kept.body.id}/codes`, { code, count: 0 });
  expect(
    (await isolde.ask('PUT', `/offers/${kept.body.id}/state`, { state: 'live', version: 1 })).status,
  ).toBe(200);
  return kept.body.id;
}

const end = (id: number) => isolde.ask('PUT', `/offers/${id}/state`, { state: 'ended', version: 1 });
const offerNumbered = async (id: number) =>
  (await isolde.ask<KeptOffer[]>('GET', '/offers')).body.find((offer) => offer.id === id);

/** Pays a basket with the exact amount; the key is the basket's. */
const pay = (browser: Browser, basket: Basket, total: number) =>
  browser.ask<FinishedSale>(
    'POST',
    '/counter/sales',
    { basket, expectedTotal: total, handed: total },
    { 'idempotency-key': basket.id },
  );

const basketOf = async (...numbers: string[]): Promise<Basket> => (await ringUp(test, numbers)).basket;

describe(`offers on ${ENGINE}`, () => {
  it('are priced on the server, stored as records with their reason, and counted', async () => {
    const basket = await basketOf('REE-BC-25', 'REE-BC-30', 'REE-AS-15');
    // 3.50, 3.50 and 3.90, the cheapest free: 7.40, tax 7.5 %.
    const { body, status } = await pay(noor, basket, 796);
    expect([status, body.total]).toEqual([200, 796]);
    const rows = await test.house.database.ask((sql) =>
      sql.query<{ kind: string; why: string; amount: number }>(
        `select record->>'kind' as kind, record->>'why' as why, sum((record->>'amount')::bigint)::bigint as amount
         from sale_line, jsonb_array_elements(records) as record where sale_id = $1 group by 1, 2`,
        [basket.id],
      ),
    );
    expect(rows).toEqual([{ kind: 'offer', why: 'Three packs, the cheapest free', amount: -350 }]);
    const receipt = await noor.ask<{ paper: { rows: unknown[] } }>('GET', `/journal/sales/${basket.id}`);
    expect(JSON.stringify(receipt.body)).toContain('Three packs, the cheapest free');
  });

  it('say the right figure when the screen showed another one, and take nothing', async () => {
    const basket = await basketOf('REE-BC-25', 'REE-BC-30', 'REE-AS-15');
    const refused = await pay(noor, basket, 1172);
    expect(problemOf(refused)).toMatchObject({ status: 409, type: 'figures-differ' });
    expect(problemOf(refused).data).toMatchObject({ priced: { total: 796 } });
  });

  it('apply in their hours only, by the clock of the shop', async () => {
    const id = await live({ conditions: { ...PLAIN.conditions, hours: { from: '12:00', to: '13:00' } } });
    // New York is five hours behind.
    const clock = vi.spyOn(test.house.clock, 'now');
    clock.mockReturnValue(new Date('2026-03-02T16:59:59Z'));
    expect((await pay(noor, await basketOf('STA-ORCH'), 5708)).status).toBe(409);
    clock.mockReturnValue(new Date('2026-03-02T17:00:00Z'));
    expect((await pay(noor, await basketOf('STA-ORCH'), 5708)).status).toBe(200);
    clock.mockRestore();
    await end(id);
  });

  it('are written by those who may, with every wrong field named', async () => {
    expect((await noor.ask('POST', '/offers', PLAIN)).status).toBe(403);
    const wrong = await isolde.ask('POST', '/offers', {
      ...PLAIN,
      name: '',
      rule: { kind: 'quantity', goods: PLAIN.rule.kind === 'each' ? PLAIN.rule.goods : null, tiers: [] },
      conditions: { ...PLAIN.conditions, from: '2026-05-02', to: '2026-05-01' },
    });
    expect(problemOf(wrong).fields?.map(({ field }) => field)).toEqual(
      expect.arrayContaining(['name', 'rule.tiers', 'conditions.to']),
    );
    const taken = await isolde.ask('POST', '/offers', { ...PLAIN, name: 'Recital bundle' });
    expect(problemOf(taken).fields?.[0]?.field).toBe('name');
    const gone = await isolde.ask('POST', '/offers', {
      ...PLAIN,
      rule: { ...PLAIN.rule, goods: { itemIds: [999_999], categories: [] } },
    });
    expect(problemOf(gone).status).toBe(422);
  });

  it('with a rule of every kind come back as they were written', async () => {
    const goods = { itemIds: [3, 5], categories: ['Reeds', 'Strings'] };
    const rules: OfferDraft['rule'][] = [
      { kind: 'each', goods, off: { kind: 'price', price: 100 } },
      {
        kind: 'together',
        groups: [
          { goods, count: 2 },
          { goods: { itemIds: [], categories: ['Cases'] }, count: 1 },
        ],
        reward: { kind: 'percent', rates: [0, 500_000] },
      },
      {
        kind: 'quantity',
        goods,
        tiers: [
          { from: 3, rate: 50_000 },
          { from: 6, rate: 90_000 },
        ],
      },
      { kind: 'spend', goods, tiers: [{ from: 5000, off: { kind: 'amount', amount: 500 } }] },
    ];
    for (const [at, rule] of rules.entries()) {
      const { body } = await isolde.ask<{ id: number }>('POST', '/offers', {
        ...PLAIN,
        name: `Kind ${at}`,
        rule,
      });
      expect((await offerNumbered(body.id))?.rule).toEqual(rule);
      await end(body.id);
    }
    const ended = (await isolde.ask<KeptOffer[]>('GET', '/offers')).body.find(
      ({ name }) => name === 'Kind 0',
    );
    expect((await isolde.ask('PUT', `/offers/${ended?.id ?? 0}`, { offer: PLAIN, version: 1 })).status).toBe(
      409,
    );
  });

  it('are not changed, nor switched on, by who has not seen what another one has made of them', async () => {
    const maker = test.browser();
    await maker.signIn('8024', 3);
    const { body: made } = await isolde.ask<{ id: number }>('POST', '/offers', { ...PLAIN, name: 'Twice' });
    const at = `/offers/${made.id}`;
    const seen = await offerNumbered(made.id);
    const change = (who: Browser, offer: Partial<OfferDraft>, version = seen?.version) =>
      who.ask<ProblemDetails>('PUT', at, { offer: { ...PLAIN, name: 'Twice', ...offer }, version });
    const answers = await Promise.all([
      change(maker, { limits: { perSale: 2, perCustomer: null, total: null } }),
      change(isolde, { limits: { perSale: 3, perCustomer: null, total: null } }),
    ]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(answers.find(({ status }) => status === 409)?.body).toMatchObject({
      type: 'changed-meanwhile',
      title: 'Isolde R. has changed this offer meanwhile.',
    });
    const state = (version?: number) => isolde.ask('PUT', `${at}/state`, { state: 'live', version });
    expect((await state(seen?.version)).status).toBe(409);
    const now = await offerNumbered(made.id);
    expect([now?.state, now?.version]).toEqual(['draft', 2]);
    expect((await state(now?.version)).status).toBe(200);
    expect((await change(isolde, { name: 'Thrice' }, now?.version)).status).toBe(200);
    await isolde.ask('PUT', `${at}/state`, { state: 'ended', version: 3 });
  });
});

describe(`codes on ${ENGINE}`, () => {
  it('open their offer, and a code that is not there opens nothing', async () => {
    const { body } = await noor.ask<FoundCode>('GET', '/offers/codes/springterm');
    expect(body).toMatchObject({ code: 'SPRINGTERM', offer: 'Spring term', single: false });
    expect((await noor.ask('GET', '/offers/codes/NO-SUCH-1')).status).toBe(404);
    // 59.00 less 5.00, tax 7.5 %.
    const basket = {
      ...(await basketOf('STA-ORCH')),
      codes: [{ code: 'SPRINGTERM', offerId: body.offerId, single: false }],
    };
    expect((await pay(noor, basket, 5805)).status).toBe(200);
    const invented = {
      ...(await basketOf('STA-ORCH')),
      codes: [{ code: 'INVENTED', offerId: body.offerId, single: false }],
    };
    expect(problemOf(await pay(noor, invented, 5805)).type).toBe('figures-differ');
  });

  it('of a series open it once each, are exported, and are given back when a sale is undone', async () => {
    const id = await live({ name: 'Letter', needs: 'code' }, 'LETTER-0');
    const made = await isolde.ask<{ codes: string[] }>('POST', `/offers/${id}/codes`, { code: '', count: 3 });
    const [code = ''] = made.body.codes;
    expect(new Set(made.body.codes).size).toBe(3);
    const csv = (await isolde.ask<string>('GET', `/offers/${id}/codes.csv`)).body;
    for (const one of made.body.codes) expect(csv).toContain(one);

    const withCode = async (): Promise<Basket> => ({
      ...(await basketOf('STA-ORCH')),
      codes: [{ code, offerId: id, single: true }],
    });
    const basket = await withCode();
    expect((await pay(noor, basket, 5708)).status).toBe(200);
    expect(problemOf(await noor.ask('GET', `/offers/codes/${code}`)).type).toBe('code-used');
    const again = await pay(teo, await withCode(), 5708);
    expect(problemOf(again)).toMatchObject({ status: 409, type: 'offer-used-up' });

    await test.house.database.write((sql) =>
      sql.query('select give_back_offers($1, $2)', [basket.id, test.house.clock.now().toISOString()]),
    );
    expect((await noor.ask('GET', `/offers/codes/${code}`)).status).toBe(200);
    expect((await offerNumbered(id))?.used).toBe(0);
    await end(id);
  });

  it('and offers with a last use go to one of two tills, and the other is told before it takes money', async () => {
    const id = await live({ name: 'Only one', limits: { perSale: null, perCustomer: null, total: 1 } });
    const [first, second] = [await basketOf('STA-ORCH'), await basketOf('STA-ORCH')];
    const shown = [{ offerId: id, uses: 1 }];
    const claims = await Promise.all([
      noor.ask('POST', '/counter/claims', { basket: first, offers: shown }),
      teo.ask('POST', '/counter/claims', { basket: second, offers: shown }),
    ]);
    const faster = claims.findIndex(({ status }) => status === 200);
    const [winner, loser, held, other] =
      faster === 0 ? [noor, teo, first, second] : [teo, noor, second, first];
    const asksAgain = await loser.ask('POST', '/counter/claims', { basket: other, offers: shown });
    for (const told of [claims[1 - faster] ?? asksAgain, asksAgain])
      expect(problemOf(told)).toMatchObject({ status: 409, type: 'offer-used-up' });
    expect(problemOf(await pay(loser, other, 5708))).toMatchObject({ status: 409 });
    expect((await pay(winner, held, 5708)).status).toBe(200);
    expect((await pay(loser, other, 6343)).status).toBe(200);
    expect((await offerNumbered(id))?.used).toBe(1);
    await end(id);
  });

  it('are let go when payment is left', async () => {
    const id = await live({ name: 'Last one', limits: { perSale: null, perCustomer: null, total: 1 } });
    const [first, second] = [await basketOf('STA-ORCH'), await basketOf('STA-ORCH')];
    await noor.ask('POST', '/counter/claims', { basket: first });
    expect((await pay(teo, second, 5708)).status).toBe(409);
    await noor.ask('DELETE', `/counter/claims/${first.id}`, {});
    expect((await pay(teo, second, 5708)).status).toBe(200);
    await end(id);
  });
});

describe(`points on ${ENGINE}`, () => {
  it('pay for a reward that was chosen, as far as they go', async () => {
    const { body: found } = await noor.ask<FoundCustomer[]>('GET', '/people/customers?find=priya');
    const customer = { id: found[0]?.id ?? 0, name: found[0]?.name ?? '' };
    const panel = async () => (await noor.ask<CustomerPanel>('GET', `/people/customers/${customer.id}`)).body;
    const { points } = await panel();
    const reward = (await noor.ask<KeptOffer[]>('GET', '/offers')).body.find(
      ({ needs }) => needs === 'points',
    );
    const basket = { ...(await basketOf('CAR-KIT-CL')), customer, rewards: [reward?.id ?? 0] };
    expect((await pay(noor, basket, 0)).status).toBe(200);
    expect((await panel()).points).toBe(points - 500);
    const twice = { ...(await basketOf('CAR-KIT-CL')), customer, rewards: [reward?.id ?? 0] };
    expect((await pay(noor, twice, 0)).status).toBe(200);
    const third = { ...(await basketOf('CAR-KIT-CL')), customer, rewards: [reward?.id ?? 0] };
    expect(problemOf(await pay(noor, third, 0)).type).toBe('figures-differ');
    expect((await panel()).points).toBe(points - 1000);
  });
});

describe(`a rehearsal on ${ENGINE}`, () => {
  it('prices what was sold with a draft, off the request path, and exports what changes', async () => {
    for (let count = 0; count < 3; count++)
      expect((await pay(noor, await basketOf('MET-C'), 4838)).status).toBe(200);
    const offer = {
      ...PLAIN,
      rule: { ...PLAIN.rule, goods: { itemIds: [], categories: ['Metronomes and tuners'] } },
    };
    const days = { from: '2026-01-01', to: '2026-12-31' };
    const { body } = await isolde.ask<Rehearsal>('POST', '/offers/rehearsals', {
      offer,
      offerId: null,
      ...days,
    });
    const ask = async () => (await isolde.ask<Rehearsal>('GET', `/offers/rehearsals/${body.id}`)).body;
    await expect.poll(async () => (await ask()).state, { timeout: 20_000 }).toBe('done');
    const { findings, baskets, done } = await ask();
    expect(done).toBe(baskets);
    expect(findings).toMatchObject({ applied: 3, uses: 3, reduction: 1350, cost: 1350 });
    expect(findings.net.before - findings.net.after).toBe(1350);
    expect(findings.margin.before - findings.margin.after).toBe(1350);
    expect(findings.changed).toHaveLength(3);
    expect((await isolde.ask<string>('GET', `/offers/rehearsals/${body.id}/baskets.csv`)).body).toContain(
      '45.00,40.50,-4.50',
    );
    expect((await noor.ask('GET', `/offers/rehearsals/${body.id}`)).status).toBe(403);
    expect((await isolde.ask('DELETE', `/offers/rehearsals/${newId()}`, {})).status).toBe(404);
  });

  it('prints a coupon for each of its codes, and says where there are more than fit', async () => {
    const id = await live({ name: 'Coupon day' });
    const sheets = async (most?: number) => {
      const pdf = await test.house.database.ask((sql) => offerLabels(sql, id, most));
      return (await extractText(new Uint8Array(pdf), { mergePages: true })).text;
    };
    const pieces = (text: string) => text.split('Coupon day').length - 1;
    const ofGoods = pieces(await sheets());
    await isolde.ask('POST', `/offers/${id}/codes`, { code: '', count: 130 });
    const all = await sheets();
    expect([pieces(all), all.includes('there are more')]).toEqual([ofGoods + 130, false]);
    const some = await sheets(6);
    expect([pieces(some), some.includes('The first 6: there are more.')]).toEqual([6, true]);
    await end(id);
  });

  it('prints labels of a bundle, and says when there is nothing to print', async () => {
    const offers = (await isolde.ask<KeptOffer[]>('GET', '/offers')).body;
    const numbered = (name: string) => offers.find((offer) => offer.name === name)?.id ?? 0;
    const sheet = (await isolde.ask<string>('GET', `/offers/${numbered('Recital bundle')}/labels.pdf`)).body;
    expect(sheet.startsWith('%PDF')).toBe(true);
    expect(
      (await isolde.ask('GET', `/offers/${numbered('Three packs, the cheapest free')}/labels.pdf`)).status,
    ).toBe(404);
  });
});
