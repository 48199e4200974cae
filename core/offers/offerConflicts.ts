import { groupsOf, type Offer } from './offer.ts';
import { means, type OfferedGoods } from './offerUnits.ts';

/** What an offer has to do with another one. */
export interface OfferConflict {
  other: Offer;
  /** How many of the goods both mean. */
  shared: number;
  /** Names of some of them. */
  examples: string[];
  /** One unit takes part in one of the two only; else one comes on top of the other. */
  excludes: boolean;
}

/** Goods as conflicts are looked for among them. */
export interface NamedGoods extends OfferedGoods {
  name: string;
}

const EXAMPLES = 3;

/** Other offers that mean the same goods at a time and place that both apply, those with most shared goods first. */
export function offerConflicts(
  offer: Offer,
  others: readonly Offer[],
  goods: readonly NamedGoods[],
): OfferConflict[] {
  const meant = goods.filter((one) => meansAny(offer, one));
  return others
    .filter((other) => other.id !== offer.id && meet(offer, other))
    .map((other) => {
      const shared = meant.filter((one) => meansAny(other, one));
      return {
        other,
        shared: shared.length,
        examples: shared.slice(0, EXAMPLES).map(({ name }) => name),
        excludes: !offer.combines && !other.combines,
      };
    })
    .filter(({ shared }) => shared > 0)
    .sort((a, b) => b.shared - a.shared || a.other.id - b.other.id);
}

const meansAny = ({ rule }: Offer, goods: OfferedGoods): boolean =>
  groupsOf(rule).some((group) => means(group.goods, goods));

/** Whether there is a moment and a place at which both apply. */
function meet({ conditions: a }: Offer, { conditions: b }: Offer): boolean {
  const common = <T>(one: readonly T[], two: readonly T[]) =>
    one.length === 0 || two.length === 0 || one.some((value) => two.includes(value));
  if ((a.to && b.from && a.to < b.from) || (b.to && a.from && b.to < a.from)) return false;
  if (a.hours && b.hours && !meetInHours(a.hours, b.hours)) return false;
  return common(a.weekdays, b.weekdays) && common(a.placeIds, b.placeIds);
}

type Hours = NonNullable<Offer['conditions']['hours']>;

/** Whether hours have a moment in common; those past midnight are parted there. */
function meetInHours(one: Hours, other: Hours): boolean {
  const parted = ({ from, to }: Hours): Hours[] =>
    from < to
      ? [{ from, to }]
      : [
          { from, to: '24:00' },
          { from: '00:00', to },
        ];
  return parted(one).some((a) => parted(other).some((b) => a.from < b.to && b.from < a.to));
}
