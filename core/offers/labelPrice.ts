import type { Money } from '../money.ts';
import { ONE } from '../quantity.ts';
import { applyOffers } from './applyOffers.ts';
import { kindOf } from './kinds/kinds.ts';
import { openOffers, type Offer } from './offer.ts';
import { indexOffers, type OfferedGoods } from './offerUnits.ts';

/** What an offer makes of the price of an item, as its label can say it. */
export interface LabelPrice {
  price: Money;
  /** The last day on which it counts, `YYYY-MM-DD`; `null` where none is set. */
  until: string | null;
  offerId: number;
}

/**
 * Whether everybody gets an offer for a single piece, at any hour of its days, however often: then a label can say
 * it.
 */
const everybodyGetsIt = ({ rule, needs, conditions, limits }: Offer): boolean =>
  kindOf(rule).single &&
  needs === 'nothing' &&
  conditions.weekdays.length === 0 &&
  conditions.hours === null &&
  conditions.groups.length === 0 &&
  conditions.minimum === 0 &&
  limits.perSale === null &&
  limits.perCustomer === null &&
  limits.total === null;

/**
 * Says what offers make of single pieces on a day at a place.
 * @param day of the shop's calendar, `YYYY-MM-DD`. @returns for each item `null` where no offer lowers it for everybody
 */
export function labelPrices(
  offers: readonly Offer[],
  { day, placeId }: { day: string; placeId: number },
): (goods: OfferedGoods, price: Money) => LabelPrice | null {
  const plain = offers.filter(everybodyGetsIt);
  const open = openOffers(plain, {
    day,
    time: '12:00',
    placeId,
    customer: false,
    groups: [],
    unlocked: new Map(),
    left: new Map(),
  });
  const index = indexOffers(open.map(({ offer }) => offer));
  return (goods, price) => {
    const line = {
      id: 'label',
      goods,
      quantity: ONE,
      counted: true,
      regular: price,
      net: price,
      closed: false,
    };
    const { uses, value } = applyOffers([line], open, index);
    const applied = uses.map(({ offer }) => offer);
    const [first] = applied;
    if (value <= 0 || !first) return null;
    const days = applied.flatMap(({ conditions: { to } }) => (to === null ? [] : [to])).toSorted();
    return { price: price - value, until: days[0] ?? null, offerId: first.id };
  };
}
