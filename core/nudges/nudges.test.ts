import { describe, expect, it } from 'vitest';
import type { NudgeFacts } from './nudge.ts';
import { nudgesFor } from './nudges.ts';
import type { Offer, OfferSituation } from '../offers/offer.ts';
import { plainOffer } from '../offers/testing/plainOffer.ts';
import { indexOffers } from '../offers/offerUnits.ts';
import { priceBasket, type LineToPrice } from '../pricing/price.ts';
import { EVERY_KIND, randomFrom, randomOffers, priceOfItem } from '../offers/testing/randomOffers.ts';

const NAMES: Record<number, string> = { 1: 'Reed, strength 2', 2: 'Folding stand', 3: 'Metronome' };

const facts: NudgeFacts = {
  names: { item: (id) => NAMES[id] ?? `item ${id}`, place: () => 'here', digits: 2, points: 'points' },
  example: ({ itemIds }) =>
    itemIds[0] ? { itemId: itemIds[0], category: 'Stands', price: 2400, rates: [] } : undefined,
  points: 0,
  asksForGroups: true,
};

const situation: OfferSituation = {
  day: '2026-03-02',
  time: '12:00',
  placeId: 1,
  customer: false,
  groups: [],
  unlocked: new Map(),
  left: new Map(),
};

const line = (itemId: number, price: number, count: number, category: string): LineToPrice => ({
  id: `line ${itemId}`,
  goods: { itemId, category },
  quantity: count * 1000,
  counted: true,
  listPrice: price,
  rates: [],
});
const rules = { taxMode: 'on-top', taxRounding: 'sale' } as const;

const reeds = { itemIds: [], categories: ['Reeds'] };
const three = plainOffer(1, 'Three packs', {
  kind: 'together',
  groups: [{ goods: reeds, count: 3 }],
  reward: { kind: 'cheapest', count: 1, rate: 1_000_000 },
});
const ten = plainOffer(2, 'Ten reeds', {
  kind: 'quantity',
  goods: reeds,
  tiers: [{ from: 10, rate: 120_000 }],
});
const spend = plainOffer(3, 'Reed week', {
  kind: 'spend',
  goods: reeds,
  tiers: [{ from: 3000, off: { kind: 'amount', amount: 400 } }],
});

const nudge = (
  lines: LineToPrice[],
  offers: Offer[],
  change: Partial<OfferSituation> = {},
  more: Partial<NudgeFacts> = {},
) =>
  nudgesFor(
    { lines, rules, discounts: [] },
    indexOffers(offers),
    { ...situation, ...change },
    { ...facts, ...more },
  );

describe('nudges', () => {
  it('say what is missing, what it saves, and what one key adds', () => {
    expect(nudge([line(1, 900, 2, 'Reeds')], [three])).toEqual([
      {
        offerId: 1,
        offer: 'Three packs',
        words: '1 more of Reeds',
        adds: 'Reed, strength 2 at 9.00',
        gives: 'Any 3 of Reeds: the cheapest is free.',
        saving: 900,
        act: { kind: 'add', itemId: 1, count: 1 },
      },
    ]);
  });

  it('say nothing of what is out of reach or brings nothing', () => {
    expect(nudge([line(1, 900, 4, 'Reeds')], [ten])).toEqual([]);
    expect(nudge([line(1, 900, 3, 'Reeds')], [three])).toEqual([]);
    expect(nudge([line(9, 900, 3, 'Picks')], [three, ten, spend])).toEqual([]);
  });

  it('say what is missing in money', () => {
    expect(nudge([line(1, 900, 3, 'Reeds')], [spend])).toMatchObject([
      { words: '3.00 more on Reeds', saving: 400, act: null },
    ]);
  });

  it('add the one item that is meant, though none is in the basket', () => {
    const set = plainOffer(4, 'Stand and metronome', {
      kind: 'together',
      groups: [
        { goods: { itemIds: [3], categories: [] }, count: 1 },
        { goods: { itemIds: [2], categories: [] }, count: 1 },
      ],
      reward: { kind: 'amount', amount: 500 },
    });
    expect(nudge([line(3, 3000, 1, 'Metronomes')], [set])).toMatchObject([
      { saving: 500, act: { kind: 'add', itemId: 2, count: 1 } },
    ]);
  });

  it('tell of an offer for members, and of a reward that points pay for', () => {
    const conditions = { ...three.conditions, groups: ['Band Circle'] };
    const members = plainOffer(
      8,
      'Members',
      { kind: 'each', goods: reeds, off: { kind: 'percent', rate: 100_000 } },
      { conditions },
    );
    const reward = plainOffer(
      9,
      'Free reed',
      { kind: 'each', goods: reeds, off: { kind: 'percent', rate: 1_000_000 } },
      { needs: 'points', points: 300 },
    );
    expect(nudge([line(1, 900, 1, 'Reeds')], [members])).toMatchObject([
      { words: 'Member of Band Circle?', saving: 90, act: { kind: 'customer' } },
    ]);
    // What is nearly within reach is said; it cannot be used yet.
    expect(nudge([line(1, 900, 1, 'Reeds')], [reward], { customer: true }, { points: 225 })).toMatchObject([
      { words: '75 points more, then 300 pay for it', saving: 900, act: null },
    ]);
    expect(nudge([line(1, 900, 1, 'Reeds')], [reward], { customer: true }, { points: 224 })).toEqual([]);
    expect(nudge([line(1, 900, 1, 'Reeds')], [reward], { customer: true }, { points: 300 })).toMatchObject([
      { words: '300 points pay for it', saving: 900, act: { kind: 'reward', offerId: 9 } },
    ]);
  });

  it('say first why an offer that was asked for yields nothing', () => {
    const coded = { ...spend, id: 10, name: 'SPRINGTERM', needs: 'code' as const };
    const unlocked = new Map([[10, 1]]);
    const [first] = nudge([line(1, 900, 1, 'Reeds')], [three, coded], { unlocked });
    expect(first).toMatchObject({ offer: 'SPRINGTERM', words: '21.00 more on Reeds' });
    const over = { ...coded, conditions: { ...coded.conditions, to: '2026-03-01' } };
    expect(nudge([line(1, 900, 5, 'Reeds')], [over], { unlocked })).toMatchObject([
      { words: 'SPRINGTERM does not apply today.', saving: 0 },
    ]);
  });

  it('save what the customer then pays less, with group price, basket discount and tax', () => {
    const rates = [{ id: 1, name: 'Sales tax', rate: 75_000 }];
    const reed = { ...line(1, 900, 2, 'Reeds'), rates, groupPrice: { unitPrice: 800, group: 'Teachers' } };
    const discounts = [
      { id: 'd', lineIds: null, size: { kind: 'percent', rate: 100_000 }, reason: 'Regular' } as const,
    ];
    const [first] = nudgesFor({ lines: [reed], rules, discounts }, indexOffers([three]), situation, facts);
    // A third one comes at 8.00, less a tenth, and tax: all of it is saved.
    expect(first).toMatchObject({ saving: 774, adds: 'Reed, strength 2 at 8.00' });
  });

  it('never say more or less than the till then shows', () => {
    let said = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const random = randomFrom(seed);
      const offers = randomOffers(random, 6, { items: 8, kinds: EVERY_KIND, combining: 0.2, limited: 0.2 });
      const index = indexOffers(offers);
      const lines = [1, 3, 6].map((item) => ({
        ...line(item, priceOfItem(item - 1), 1 + Math.floor(random() * 3), `c${Math.floor((item - 1) / 4)}`),
        rates: [{ id: 1, name: 'Sales tax', rate: 75_000 }],
      }));
      const total = (
        of: readonly LineToPrice[],
        offering?: { index: typeof index; situation: OfferSituation },
      ) => priceBasket(of, rules, [], offering).total;
      for (const { saving, act } of nudgesFor({ lines, rules, discounts: [] }, index, situation, facts)) {
        if (act?.kind !== 'add') continue;
        const added = lines.find(({ goods }) => goods?.itemId === act.itemId);
        if (!added) continue;
        const more = [...lines, { ...added, id: 'more', quantity: act.count * 1000 }];
        const offering = { index, situation };
        expect(saving).toBe(total(lines, offering) + total(more) - total(lines) - total(more, offering));
        said += 1;
      }
    }
    expect(said).toBeGreaterThan(10);
  });

  it('show the best of many, whatever their numbers, and only those that then apply', () => {
    const off = (at: number) => ({ kind: 'amount' as const, amount: 100 + 10 * at });
    const alike = Array.from({ length: 40 }, (_, at) =>
      plainOffer(at + 1, `Reeds ${at}`, {
        kind: 'spend',
        goods: reeds,
        tiers: [{ from: 3000, off: off(at) }],
      }),
    );
    expect(nudge([line(1, 900, 3, 'Reeds')], alike)).toMatchObject([{ offerId: 40, saving: 490 }]);
    const apart = Array.from({ length: 40 }, (_, at) =>
      plainOffer(at + 1, `Goods ${at}`, {
        kind: 'spend',
        goods: { itemIds: [at + 1], categories: [] },
        tiers: [{ from: 3000, off: off(at) }],
      }),
    );
    const lines = apart.map(({ id }) => line(id, 900, 3, 'Any'));
    expect(nudge(lines, apart).map(({ offerId, saving }) => [offerId, saving])).toEqual([
      [40, 490],
      [39, 480],
      [38, 470],
    ]);
  });

  it('say that a code does nothing where another offer takes the goods', () => {
    const coded = plainOffer(
      11,
      'TENTH',
      { kind: 'each', goods: reeds, off: { kind: 'percent', rate: 100_000 } },
      { needs: 'code' },
    );
    const half = plainOffer(12, 'Half', {
      kind: 'each',
      goods: reeds,
      off: { kind: 'percent', rate: 500_000 },
    });
    expect(nudge([line(1, 900, 1, 'Reeds')], [coded, half], { unlocked: new Map([[11, 1]]) })).toMatchObject([
      { offer: 'TENTH', words: 'Another offer takes off more here.', saving: 0, act: null },
    ]);
  });
});
