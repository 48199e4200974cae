import type { Offer, OfferRule } from '../offer.ts';

/** An offer without any condition or limit, for tests. */
export const plainOffer = (id: number, name: string, rule: OfferRule, more: Partial<Offer> = {}): Offer => ({
  id,
  name,
  rule,
  combines: false,
  conditions: { from: null, to: null, weekdays: [], hours: null, placeIds: [], groups: [], minimum: 0 },
  limits: { perSale: null, perCustomer: null, total: null },
  needs: 'nothing',
  points: 0,
  ...more,
});
