import { applyOffers, MOST_WORK, type OfferResult } from '../applyOffers.ts';
import type { Offer } from '../offer.ts';
import { indexOffers, type OfferLine } from '../offerUnits.ts';
import { EVERY_KIND, randomBasket, randomFrom, randomOffers, type OfferStyle } from './randomOffers.ts';

/** A line of a basket, for tests. */
export function line(itemId: number, price: number, count = 1, category = 'any'): OfferLine {
  return {
    id: `line ${itemId}`,
    goods: { itemId, category },
    quantity: count * 1000,
    counted: true,
    regular: price * count,
    net: price * count,
    closed: false,
  };
}

/** What offers do to lines, each as often as it may. */
export function apply(
  lines: readonly OfferLine[],
  offers: readonly Offer[],
  work = { left: MOST_WORK },
): OfferResult {
  const open = offers.map((offer) => ({ offer, limit: offer.limits.perSale ?? Number.POSITIVE_INFINITY }));
  return applyOffers(lines, open, indexOffers(offers), work);
}

/** A made-up shop's corner and a basket in it. */
export function corner(
  seed: number,
  most: { offers: number; units: number },
  style: Partial<OfferStyle> = {},
) {
  const random = randomFrom(seed);
  const whole = {
    items: 5 + Math.floor(random() * 9),
    kinds: EVERY_KIND,
    combining: 0,
    limited: 0.3,
    ...style,
  };
  const offers = randomOffers(random, 1 + Math.floor(random() * most.offers), whole);
  return { offers, lines: randomBasket(random, 1 + Math.floor(random() * most.units), whole.items) };
}
