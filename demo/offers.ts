import { DateTime } from 'luxon';
import type { OfferDraft } from '../contract/offers.ts';
import type { OfferGoods } from '../core/offers/offer.ts';
import type { Writer } from '../server/db/database.ts';
import { itemNumbered } from '../server/goods/store.ts';
import { addCodes, putOffer, setOfferState } from '../server/offers/offerStore.ts';

const DAY = 'yyyy-MM-dd';

const PLAIN: Omit<OfferDraft, 'name' | 'rule'> = {
  combines: false,
  conditions: { from: null, to: null, weekdays: [], hours: null, placeIds: [], groups: [], minimum: 0 },
  limits: { perSale: null, perCustomer: null, total: null },
  needs: 'nothing',
  points: 0,
};

const of = (...categories: string[]): OfferGoods => ({ itemIds: [], categories });

/** The offers of the made-up shop. @param began when those that apply began, @param at the day the demo starts */
export async function layOffers(sql: Writer, staffId: number, began: Date, at: Date): Promise<void> {
  const items = async (...numbers: string[]): Promise<OfferGoods> => ({
    itemIds: await Promise.all(numbers.map((number) => itemNumbered(sql, number))),
    categories: [],
  });
  const day = (days: number) => DateTime.fromJSDate(at).plus({ days }).toFormat(DAY);

  async function lay(offer: OfferDraft, codes: string[] = []): Promise<void> {
    const id = await putOffer(sql, null, offer, { staffId, at: began });
    if (codes.length > 0) await addCodes(sql, id, codes, { single: false, at: began });
    await setOfferState(sql, id, 'live', began);
  }

  await lay({
    ...PLAIN,
    name: 'Three packs, the cheapest free',
    rule: {
      kind: 'together',
      groups: [{ goods: of('Reeds', 'Strings'), count: 3 }],
      reward: { kind: 'cheapest', count: 1, rate: 1_000_000 },
    },
  });
  await lay({
    ...PLAIN,
    name: 'Practice corner',
    rule: {
      kind: 'together',
      groups: [
        { goods: of('Stands'), count: 1 },
        { goods: of('Printed music'), count: 1 },
        { goods: await items('MET'), count: 1 },
      ],
      reward: { kind: 'amount', amount: 10_00 },
    },
  });
  await lay({
    ...PLAIN,
    name: 'Ten sticks, any mix',
    rule: { kind: 'quantity', goods: of('Sticks'), tiers: [{ from: 10, rate: 120_000 }] },
  });
  await lay({
    ...PLAIN,
    name: 'Music for 75',
    rule: {
      kind: 'spend',
      goods: of('Printed music'),
      tiers: [{ from: 75_00, off: { kind: 'amount', amount: 8_00 } }],
    },
  });
  await lay({
    ...PLAIN,
    name: 'Recital bundle',
    rule: {
      kind: 'together',
      groups: [
        { goods: await items('STA-FOLD-BK'), count: 1 },
        { goods: await items('MUS-RP1I'), count: 1 },
        { goods: await items('MET-P'), count: 1 },
      ],
      reward: { kind: 'price', price: 59_00 },
    },
  });
  await lay({
    ...PLAIN,
    name: 'Case and strap',
    rule: {
      kind: 'together',
      groups: [
        { goods: of('Cases'), count: 1 },
        { goods: of('Straps'), count: 1 },
      ],
      reward: { kind: 'percent', rates: [50_000, 200_000] },
    },
  });
  await lay({
    ...PLAIN,
    name: 'Band Circle care',
    rule: { kind: 'each', goods: of('Care', 'Picks'), off: { kind: 'percent', rate: 100_000 } },
    conditions: { ...PLAIN.conditions, groups: ['Band Circle'] },
  });
  await lay(
    {
      ...PLAIN,
      name: 'Spring term',
      rule: {
        kind: 'spend',
        goods: of('Printed music', 'Stands'),
        tiers: [{ from: 40_00, off: { kind: 'amount', amount: 5_00 } }],
      },
      needs: 'code',
      combines: true,
      limits: { perSale: 1, perCustomer: null, total: 200 },
    },
    ['SPRINGTERM'],
  );
  await lay(
    {
      ...PLAIN,
      name: 'First strings',
      rule: { kind: 'each', goods: of('Strings'), off: { kind: 'percent', rate: 150_000 } },
      needs: 'code',
      limits: { perSale: 4, perCustomer: 4, total: null },
    },
    ['FIRSTSTRINGS'],
  );
  await lay({
    ...PLAIN,
    name: 'Care kit for beats',
    rule: { kind: 'each', goods: await items('CAR-KIT'), off: { kind: 'percent', rate: 1_000_000 } },
    needs: 'points',
    points: 500,
    combines: true,
  });
  await lay({
    ...PLAIN,
    name: 'Case weeks',
    rule: { kind: 'each', goods: of('Cases'), off: { kind: 'percent', rate: 100_000 } },
    conditions: { ...PLAIN.conditions, from: day(7), to: day(21) },
  });
  await lay({
    ...PLAIN,
    name: 'End of summer',
    rule: { kind: 'each', goods: of('Clothing'), off: { kind: 'percent', rate: 200_000 } },
    conditions: { ...PLAIN.conditions, to: day(-40) },
  });
  await putOffer(
    sql,
    null,
    {
      ...PLAIN,
      name: 'Rosin Mondays',
      rule: { kind: 'each', goods: await items('CAR-RO'), off: { kind: 'percent', rate: 200_000 } },
      conditions: { ...PLAIN.conditions, weekdays: [1] },
    },
    { staffId, at: began },
  );
}
