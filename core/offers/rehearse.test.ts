import { describe, expect, it } from 'vitest';
import type { Offer } from './offer.ts';
import { noSums, pastLine, rehearseBasket, rehearsed, type PastBasket, type SoldLine } from './rehearse.ts';
import { plainOffer } from './testing/plainOffer.ts';

const offerOf = (id: number, name: string, rate: number, category: string): Offer =>
  plainOffer(id, name, {
    kind: 'each',
    goods: { itemIds: [], categories: [category] },
    off: { kind: 'percent', rate },
  });

const sold = (category: string, regular: number, more: Partial<SoldLine> = {}): SoldLine => ({
  goods: { itemId: 1, category },
  quantity: 1000,
  decimals: 0,
  regular,
  records: [],
  cost: null,
  ...more,
});

const basketOf = (number: string, day: string, ...lines: SoldLine[]): PastBasket => ({
  saleId: number,
  number,
  day,
  time: '12:00',
  placeId: 1,
  customer: false,
  groups: [],
  opened: [],
  lines: lines.map(pastLine),
});

describe('a rehearsal', () => {
  it('adds up uses, cost, margin and what other offers lose', () => {
    const live = [offerOf(1, 'Reed week', 100_000, 'reeds')];
    const draft = {
      ...offerOf(2, 'Reed day', 300_000, 'reeds'),
      conditions: { ...offerOf(2, '', 1, '').conditions, from: '2030-01-01' },
    };
    const sums = noSums();
    const offers = rehearsed(draft, live);
    rehearseBasket(basketOf('1-0001', '2026-03-02', sold('reeds', 1000, { cost: 600 })), offers, sums);
    rehearseBasket(basketOf('1-0002', '2026-03-02', sold('stands', 5000)), offers, sums);
    rehearseBasket(basketOf('1-0003', '2026-03-03', sold('reeds', 500)), offers, sums);
    expect(sums).toMatchObject({
      applied: 2,
      uses: 2,
      reduction: 450,
      cost: 300,
      net: { before: 6350, after: 6050 },
      margin: { before: 300, after: 100 },
      costUnknown: 2,
    });
    expect([...sums.days]).toEqual([
      ['2026-03-02', { applied: 1, cost: 200 }],
      ['2026-03-03', { applied: 1, cost: 100 }],
    ]);
    expect([...sums.others.values()]).toEqual([{ name: 'Reed week', before: 150, after: 0 }]);
    expect(sums.changed.map(({ number, before, after }) => [number, before, after])).toEqual([
      ['1-0001', 900, 700],
      ['1-0003', 450, 350],
    ]);
  });

  it('measures a live offer as if it had never been there', () => {
    const live = offerOf(1, 'Reed week', 100_000, 'reeds');
    const sums = noSums();
    rehearseBasket(basketOf('1-0001', '2026-03-02', sold('reeds', 1000)), rehearsed(live, [live]), sums);
    expect(sums).toMatchObject({ applied: 1, reduction: 100, cost: 100 });
  });

  it('takes a line as it stood when offers came to it', () => {
    const records = [
      { kind: 'typed-price', amount: -100 },
      { kind: 'offer', amount: -90 },
      { kind: 'discount', amount: -10 },
    ];
    expect(pastLine(sold('reeds', 1000, { records }), 0)).toMatchObject({
      net: 900,
      later: -10,
      counted: true,
    });
    expect(pastLine(sold('cable', 1000, { quantity: 2500, decimals: 1 }), 0)).toMatchObject({
      counted: false,
    });
  });
});
