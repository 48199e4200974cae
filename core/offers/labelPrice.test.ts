import { describe, expect, it } from 'vitest';
import { labelPrices } from './labelPrice.ts';
import type { Offer } from './offer.ts';

const offer = (fields: Partial<Offer>): Offer => ({
  id: 1,
  name: 'Off',
  rule: {
    kind: 'each',
    goods: { itemIds: [7], categories: [] },
    off: { kind: 'percent', rate: 100_000 },
  },
  combines: false,
  conditions: {
    from: '2026-03-01',
    to: '2026-03-31',
    weekdays: [],
    hours: null,
    placeIds: [],
    groups: [],
    minimum: 0,
  },
  limits: { perSale: null, perCustomer: null, total: null },
  needs: 'nothing',
  points: 0,
  ...fields,
});
const GOODS = { itemId: 7, category: 'Winds' };
const priced = (offers: Offer[], day = '2026-03-02', placeId = 1) =>
  labelPrices(offers, { day, placeId })(GOODS, 10_00);

describe('the price of an offer on a label', () => {
  it('is what a single piece costs everybody on that day, until the offer ends', () => {
    expect(priced([offer({})])).toEqual({ price: 9_00, until: '2026-03-31', offerId: 1 });
    expect(priced([offer({})], '2026-04-01')).toBeNull();
    expect(
      labelPrices([offer({})], { day: '2026-03-02', placeId: 1 })({ ...GOODS, itemId: 8 }, 10_00),
    ).toBeNull();
    const endless = offer({ conditions: { ...offer({}).conditions, to: null } });
    expect(priced([endless])?.until).toBeNull();
    const both = [
      offer({}),
      offer({ id: 2, combines: true, conditions: { ...endless.conditions, to: '2026-03-09' } }),
    ];
    expect(priced(both)).toMatchObject({ price: 8_10, until: '2026-03-09' });
  });

  it('is none where not everybody gets it at any hour', () => {
    const { conditions } = offer({});
    for (const fields of [
      { conditions: { ...conditions, groups: ['Teachers'] } },
      { conditions: { ...conditions, hours: { from: '11:00', to: '13:00' } } },
      { conditions: { ...conditions, weekdays: [1] } },
      { conditions: { ...conditions, minimum: 100 } },
      { limits: { perSale: 1, perCustomer: null, total: null } },
      { needs: 'code' as const },
      { conditions: { ...conditions, placeIds: [2] } },
    ])
      expect(priced([offer(fields)])).toBeNull();
    expect(priced([offer({ conditions: { ...conditions, placeIds: [2] } })], '2026-03-02', 2)?.price).toBe(
      9_00,
    );
  });
});
