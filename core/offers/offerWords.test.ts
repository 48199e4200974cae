import { describe, expect, it } from 'vitest';
import { offerConflicts } from './offerConflicts.ts';
import { offerExamples } from './offerExamples.ts';
import { openness, type Offer, type OfferSituation } from './offer.ts';
import { plainOffer } from './testing/plainOffer.ts';
import type { OfferNames } from './goodsWords.ts';
import { hindranceWords, offerWords } from './offerWords.ts';

const names: OfferNames = {
  item: (id) => ({ 1: 'Folding stand', 2: 'Metronome' })[id] ?? `item ${id}`,
  place: (id) => (id === 1 ? 'Ostler Lane' : 'Quayside'),
  points: 'points',
  digits: 2,
};

const PLAIN = plainOffer(1, 'Three packs', {
  kind: 'together',
  groups: [{ goods: { itemIds: [], categories: ['reeds', 'strings'] }, count: 3 }],
  reward: { kind: 'cheapest', count: 1, rate: 1_000_000 },
});

const situation: OfferSituation = {
  day: '2026-03-02',
  time: '12:00',
  placeId: 1,
  customer: false,
  groups: [],
  unlocked: new Map(),
  left: new Map(),
};

describe('an offer in words', () => {
  it('says what it gives and to whom', () => {
    const conditions = { ...PLAIN.conditions, groups: ['Band Circle'], weekdays: [1] };
    expect(offerWords({ ...PLAIN, conditions }, names)).toBe(
      'Any 3 of reeds or strings: the cheapest is free. Band Circle members only. Mondays.',
    );
  });

  it.each<[Offer['rule'], string]>([
    [
      { kind: 'each', goods: { itemIds: [2], categories: [] }, off: { kind: 'price', price: 1999 } },
      'Metronome: for 19.99, each.',
    ],
    [
      {
        kind: 'together',
        groups: [
          { goods: { itemIds: [1], categories: [] }, count: 1 },
          { goods: { itemIds: [2], categories: [] }, count: 2 },
        ],
        reward: { kind: 'percent', rates: [0, 1_000_000] },
      },
      '1 of Folding stand and 2 of Metronome: Metronome free.',
    ],
    [
      { kind: 'quantity', goods: { itemIds: [], categories: [] }, tiers: [{ from: 10, rate: 125_000 }] },
      'From 10 of anything on, in any mix: 12.5 % off all.',
    ],
    [
      {
        kind: 'spend',
        goods: { itemIds: [], categories: ['music'] },
        tiers: [{ from: 7500, off: { kind: 'amount', amount: 800 } }],
      },
      '75.00 or more on music: 8.00 off.',
    ],
  ])('has words for every kind', (rule, words) => {
    expect(offerWords({ ...PLAIN, rule }, names)).toBe(words);
  });

  it('says every condition', () => {
    expect(
      offerWords(
        {
          ...PLAIN,
          conditions: {
            from: '2026-03-01',
            to: '2026-03-31',
            weekdays: [6, 2],
            hours: { from: '09:00', to: '11:00' },
            placeIds: [2],
            groups: [],
            minimum: 2000,
          },
          limits: { perSale: 1, perCustomer: 2, total: 50 },
          needs: 'points',
          points: 300,
          combines: true,
        },
        names,
      ),
    ).toBe(
      'Any 3 of reeds or strings: the cheapest is free. Only when these goods come to 20.00 or more. ' +
        'Tuesdays and Saturdays. From 9:00 AM to 11:00 AM. From Mar 1, 2026 to Mar 31, 2026. At Quayside only. ' +
        'For 300 points each time. At most 1 time in a sale, 2 times for a customer and 50 times in all. ' +
        'On top of other offers.',
    );
  });
});

describe('whether an offer is open', () => {
  const state = (
    conditions: Partial<Offer['conditions']>,
    more: Partial<Offer> = {},
    at: Partial<OfferSituation> = {},
  ) =>
    openness(
      { ...PLAIN, ...more, conditions: { ...PLAIN.conditions, ...conditions } },
      { ...situation, ...at },
    );

  it('depends on day, hour, place, customer, group, code, points and what is left', () => {
    expect(state({})).toEqual({ limit: Number.POSITIVE_INFINITY });
    expect(state({ from: '2026-03-02', to: '2026-03-02' })).toHaveProperty('limit');
    expect(state({ from: '2026-03-03' })).toEqual({ hindrance: 'day' });
    expect(state({ to: '2026-03-01' })).toEqual({ hindrance: 'day' });
    expect(state({ weekdays: [1] })).toHaveProperty('limit');
    expect(state({ weekdays: [2, 7] })).toEqual({ hindrance: 'day' });
    expect(state({ hours: { from: '12:00', to: '12:01' } })).toHaveProperty('limit');
    expect(state({ hours: { from: '11:00', to: '12:00' } })).toEqual({ hindrance: 'hours' });
    // Past midnight it is still the evening before: Monday's, where it is open until two.
    const night = { weekdays: [1], hours: { from: '22:00', to: '02:00' } };
    const at = (day: string, time: string) => state(night, {}, { day, time });
    expect(at('2026-03-02', '22:00')).toHaveProperty('limit');
    expect(at('2026-03-03', '01:59')).toHaveProperty('limit');
    expect(at('2026-03-03', '02:00')).toEqual({ hindrance: 'day' });
    expect(at('2026-03-02', '01:00')).toEqual({ hindrance: 'day' });
    expect(at('2026-03-02', '21:59')).toEqual({ hindrance: 'hours' });
    expect(state({ placeIds: [2] })).toEqual({ hindrance: 'place' });
    expect(state({ groups: ['Teachers'] }, {}, { groups: ['Teachers'] })).toHaveProperty('limit');
    expect(state({ groups: ['Teachers'] })).toEqual({ hindrance: 'group' });
    expect(state({}, { limits: { ...PLAIN.limits, perCustomer: 2 } })).toEqual({ hindrance: 'customer' });
    expect(state({}, { needs: 'code' })).toEqual({ hindrance: 'code' });
    expect(state({}, { needs: 'code' }, { unlocked: new Map([[1, 2]]) })).toEqual({ limit: 2 });
    expect(state({}, { limits: { ...PLAIN.limits, perSale: 3 } }, { left: new Map([[1, 2]]) })).toEqual({
      limit: 2,
    });
    expect(state({}, {}, { left: new Map([[1, 0]]) })).toEqual({ hindrance: 'used-up' });
  });

  it('is said with what could be done', () => {
    const conditions = { ...PLAIN.conditions, groups: ['Teachers'] };
    expect(hindranceWords('group', { ...PLAIN, conditions }, names)).toBe(
      'Three packs is for members of Teachers: scan a card or press F4.',
    );
  });
});

describe('offers that mean the same goods', () => {
  const goods = [
    { itemId: 1, category: 'reeds', name: 'Soft reed' },
    { itemId: 2, category: 'reeds', name: 'Hard reed' },
    { itemId: 3, category: 'stands', name: 'Stand' },
  ];
  const other: Offer = {
    ...PLAIN,
    id: 2,
    name: 'Soft week',
    rule: { kind: 'each', goods: { itemIds: [1], categories: [] }, off: { kind: 'percent', rate: 100_000 } },
  };

  it('are found with what they share, unless they never meet', () => {
    expect(offerConflicts(PLAIN, [other, PLAIN], goods)).toEqual([
      { other, shared: 1, examples: ['Soft reed'], excludes: true },
    ]);
    const on = (conditions: Partial<Offer['conditions']>): Offer => ({
      ...other,
      conditions: { ...other.conditions, ...conditions },
    });
    const mondays = { ...PLAIN, conditions: { ...PLAIN.conditions, weekdays: [1], to: '2026-03-10' } };
    expect(offerConflicts(mondays, [on({ weekdays: [2] }), on({ from: '2026-03-11' })], goods)).toEqual([]);
    expect(offerConflicts(mondays, [on({ weekdays: [1, 2] })], goods)).toHaveLength(1);
  });
});

describe('example baskets', () => {
  const reeds = [900, 700, 1500].map((price, at) => ({
    itemId: at + 1,
    category: 'reeds',
    name: `Reed ${at}`,
    price,
  }));

  it('show what is just enough, and what is not', () => {
    const examples = offerExamples(PLAIN, (_goods, most) => reeds.slice(0, most));
    expect(examples.map(({ applies, before, after }) => [applies, before, after])).toEqual([
      [true, 3100, 2400],
      [true, 4600, 3700],
      [true, 6200, 4600],
      [false, 1600, 1600],
    ]);
  });

  it('are none where nothing that is sold fits', () => {
    expect(offerExamples(PLAIN, () => [])).toEqual([]);
  });
});
