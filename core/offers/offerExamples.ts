import { sum, type Money } from '../money.ts';
import { ONE } from '../quantity.ts';
import { applyOffers } from './applyOffers.ts';
import { MOST_EXAMPLE_UNITS } from './kinds/kind.ts';
import { kindOf } from './kinds/kinds.ts';
import type { Offer, OfferGoods } from './offer.ts';
import { indexOffers, type OfferedGoods, type OfferLine } from './offerUnits.ts';

/** Goods of the shop as an example puts them into a basket. */
export interface ExampleItem extends OfferedGoods {
  name: string;
  price: Money;
}

/** A basket to which an offer is shown. */
export interface OfferExample {
  /** Whether the offer reduces it. */
  applies: boolean;
  lines: { name: string; count: number; before: Money; after: Money }[];
  before: Money;
  after: Money;
}

/**
 * Baskets that show what an offer does: one that is just enough, one with more, one that lacks something.
 * @param pick goods that are meant, as many different ones as there are up to a number
 */
export function offerExamples(
  offer: Offer,
  pick: (goods: OfferGoods, most: number) => ExampleItem[],
): OfferExample[] {
  const index = indexOffers([offer]);
  const open = [{ offer, limit: offer.limits.perSale ?? Number.POSITIVE_INFINITY }];
  return basketsFor(offer, pick)
    .filter((items) => items.length > 0 && items.length <= MOST_EXAMPLE_UNITS)
    .map((items): OfferExample => {
      const lines = linesOf(items);
      const { parts, value } = applyOffers(
        lines.map(({ line }) => line),
        open,
        index,
      );
      const before = sum(lines.map(({ line }) => line.net));
      return {
        applies: value > 0,
        lines: lines.map(({ line, item, count }, at) => ({
          name: item.name,
          count,
          before: line.net,
          after: line.net - sum(parts.filter((one) => one.line === at).map(({ amount }) => amount)),
        })),
        before,
        after: before - value,
      };
    });
}

function basketsFor(
  { rule }: Offer,
  pick: (goods: OfferGoods, most: number) => ExampleItem[],
): ExampleItem[][] {
  const some = (goods: OfferGoods, count: number): ExampleItem[] => {
    const items = pick(goods, Math.min(count, 3));
    return items.length === 0
      ? []
      : Array.from({ length: count }, (_, at) => items[at % items.length] as ExampleItem);
  };
  return kindOf(rule).examples(some);
}

function linesOf(items: readonly ExampleItem[]): { line: OfferLine; item: ExampleItem; count: number }[] {
  const counts = new Map<number, { item: ExampleItem; count: number }>();
  for (const item of items) {
    counts.set(item.itemId, { item, count: (counts.get(item.itemId)?.count ?? 0) + 1 });
  }
  return [...counts.values()].map(({ item, count }, at) => ({
    item,
    count,
    line: {
      id: String(at),
      goods: item,
      quantity: count * ONE,
      counted: true,
      regular: item.price * count,
      net: item.price * count,
      closed: false,
    },
  }));
}
