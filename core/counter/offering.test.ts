import { describe, expect, it } from 'vitest';
import type { Offer } from '../offers/offer.ts';
import { plainOffer } from '../offers/testing/plainOffer.ts';
import { BasketError, type Basket } from './basket.ts';
import { addCode, setReward, withoutCode } from './basketCodes.ts';
import { pointsLeft, situationOf, type OfferFacts } from './offering.ts';

const offerOf = (id: number, more: Partial<Offer> = {}): Offer =>
  plainOffer(
    id,
    `Offer ${id}`,
    { kind: 'each', goods: { itemIds: [], categories: [] }, off: { kind: 'percent', rate: 100_000 } },
    more,
  );

const basket: Basket = { id: 'mine', lines: [] };
const facts: OfferFacts = {
  day: '2026-03-02',
  time: '12:00',
  placeId: 1,
  used: [],
  customer: { groups: ['Teachers'], points: 700, offerUses: [{ offerId: 2, uses: 1 }] },
  points: { on: true, word: 'beats', offPoints: 100, offAmount: 1_00, offMost: 500_000 },
};

describe('what a basket opens', () => {
  it('is one use for a single code, any number for an open one', () => {
    const one = { code: 'AAA-1', offerId: 1, single: true };
    const two = { code: 'AAA-2', offerId: 1, single: true };
    const open = { code: 'SPRING', offerId: 2, single: false };
    const coded = [one, two, open].reduce(addCode, basket);
    expect([...situationOf(coded, [], facts).unlocked]).toEqual([
      [1, 2],
      [2, Number.POSITIVE_INFINITY],
    ]);
    expect(() => addCode(coded, one)).toThrow(BasketError);
    expect(withoutCode(withoutCode(coded, 'AAA-1'), 'AAA-2').codes).toEqual([open]);
  });

  it('is as many rewards as the points pay for, in the order in which they were chosen', () => {
    const offers = [
      offerOf(1, { needs: 'points', points: 500 }),
      offerOf(2, { needs: 'points', points: 200 }),
    ];
    const chosen = [1, 1, 2].reduce((now, id) => setReward(now, id, true), basket);
    expect([...situationOf(chosen, offers, facts).unlocked]).toEqual([
      [1, 1],
      [2, 1],
    ]);
    expect(pointsLeft(chosen, offers, 700)).toBe(0);
    expect(setReward(setReward(setReward(chosen, 1, false), 1, false), 2, false).rewards).toBeUndefined();
  });
});

describe('what is left of an offer', () => {
  it('counts what other baskets hold, not what this one does', () => {
    const offers = [offerOf(1, { limits: { perSale: null, perCustomer: null, total: 5 } })];
    const claims = [
      { basketId: 'mine', uses: 2 },
      { basketId: 'other', uses: 1 },
    ];
    const left = situationOf(basket, offers, { ...facts, used: [{ offerId: 1, used: 3, claims }] }).left;
    expect(left.get(1)).toBe(1);
  });

  it('is the smaller of what the customer and what everybody has left', () => {
    const offers = [offerOf(2, { limits: { perSale: null, perCustomer: 3, total: 9 } })];
    const used = (count: number) => [{ offerId: 2, used: count, claims: [] }];
    expect(situationOf(basket, offers, { ...facts, used: used(0) }).left.get(2)).toBe(2);
    expect(situationOf(basket, offers, { ...facts, used: used(8) }).left.get(2)).toBe(1);
    expect(situationOf(basket, offers, { ...facts, used: used(12) }).left.get(2)).toBe(0);
  });
});
