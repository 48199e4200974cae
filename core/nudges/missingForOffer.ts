import { formatMoney, sum, type Money } from '../money.ts';
import { ONE } from '../quantity.ts';
import type { Nudge, NudgeFacts, NudgeItem } from './nudge.ts';
import { groupsOf, type Offer, type OfferGoods } from '../offers/offer.ts';
import { REACH_PART } from '../offers/kinds/kind.ts';
import { kindOf } from '../offers/kinds/kinds.ts';
import { howMany, means, type OfferUnit } from '../offers/offerUnits.ts';
import { goodsWords } from '../offers/goodsWords.ts';
import type { LineToPrice } from '../pricing/price.ts';

/** What would have to be in the basket, too. */
export interface Missing {
  words: string;
  adds: string | null;
  lines: readonly LineToPrice[];
  act: Nudge['act'];
}

/** What is missing for an offer, or for more of it, if that is within reach. @param anyway however far it is */
export function missingForOffer(
  offer: Offer,
  lines: readonly LineToPrice[],
  units: readonly OfferUnit[],
  facts: NudgeFacts,
  anyway: boolean,
): Missing | undefined {
  const { rule, conditions } = offer;
  const kind = kindOf(rule);
  const meant = units.filter(
    (unit) =>
      (unit.counted || kind.takesUncounted) && groupsOf(rule).some(({ goods }) => means(goods, unit.goods)),
  );
  const listed = sum(meant.map(({ list, count }) => list * count));
  const many = howMany(meant);
  const ofGroup = (group: number) => {
    const goods = groupsOf(rule)[group]?.goods;
    return howMany(units.filter((unit) => unit.counted && goods && means(goods, unit.goods)));
  };
  const { digits } = facts.names;
  if (listed < conditions.minimum) {
    const goods = groupsOf(rule).map((group) => group.goods)[0] ?? { itemIds: [], categories: [] };
    return missingMoney(goods, conditions.minimum - listed, conditions.minimum, lines, meant, facts, anyway);
  }
  const lack = kind.lacks({ listed, units: many, ofGroup }, anyway);
  switch (lack?.kind) {
    case undefined:
      return undefined;
    case 'goods':
      return { words: `Needs ${goodsWords(lack.goods, facts.names)}`, adds: null, lines: [], act: null };
    case 'money':
      return missingMoney(lack.goods, lack.missing, lack.from, lines, meant, facts, anyway);
    case 'units':
      return missingUnits(lack.groups, lines, units, facts, digits);
  }
}

function missingUnits(
  groups: readonly { goods: OfferGoods; count: number }[],
  lines: readonly LineToPrice[],
  units: readonly OfferUnit[],
  facts: NudgeFacts,
  digits: number,
): Missing {
  const chosen = groups.map(({ goods, count }) => ({ count, item: itemFor(goods, lines, units, facts) }));
  const words = groups
    .map(({ goods, count }) => `${count} more of ${goodsWords(goods, facts.names)}`)
    .join(' and ');
  const [only] = chosen;
  const known = chosen.length === 1 && only?.item && only.item.known ? only.item : undefined;
  return {
    words,
    adds: known
      ? `${facts.names.item(known.itemId)} at ${formatMoney(Math.min(known.price, known.groupPrice?.unitPrice ?? known.price), digits)}`
      : null,
    lines: chosen.flatMap(({ item, count }, at) => (item ? [lineOf(item, count, at)] : [])),
    act: known && only ? { kind: 'add', itemId: known.itemId, count: only.count } : null,
  };
}

/** The one item that is meant; else one of them that is in the basket, the cheapest; else an example. */
function itemFor(
  goods: OfferGoods,
  lines: readonly LineToPrice[],
  units: readonly OfferUnit[],
  facts: NudgeFacts,
): (NudgeItem & { known: boolean }) | undefined {
  const inBasket = units.findLast((unit) => unit.counted && means(goods, unit.goods));
  const line = inBasket && lines[inBasket.line];
  if (line)
    return {
      ...inBasket.goods,
      price: line.listPrice,
      groupPrice: line.groupPrice,
      rates: line.rates,
      known: true,
    };
  const example = facts.example(goods);
  const single = goods.itemIds.length === 1 && goods.categories.length === 0;
  return example && { ...example, known: single && example.itemId === goods.itemIds[0] };
}

const lineOf = (
  { itemId, familyId, category, price, groupPrice, rates }: NudgeItem,
  count: number,
  at: number,
): LineToPrice => ({
  id: `~${at}`,
  goods: { itemId, familyId, category },
  quantity: count * ONE,
  counted: true,
  listPrice: price,
  groupPrice,
  rates,
});

function missingMoney(
  goods: OfferGoods,
  missing: Money,
  from: Money,
  lines: readonly LineToPrice[],
  meant: readonly OfferUnit[],
  facts: NudgeFacts,
  anyway: boolean,
): Missing | undefined {
  if (!anyway && (meant.length === 0 || missing > from * REACH_PART)) return undefined;
  const [unit] = meant;
  const item: NudgeItem | undefined = unit && {
    ...unit.goods,
    price: missing,
    rates: lines[unit.line]?.rates ?? [],
  };
  return {
    words: `${formatMoney(missing, facts.names.digits)} more on ${goodsWords(goods, facts.names)}`,
    adds: null,
    // Whatever comes to just what is missing.
    lines: item ? [{ ...lineOf(item, 1, 0), counted: unit?.counted ?? true }] : [],
    act: null,
  };
}
