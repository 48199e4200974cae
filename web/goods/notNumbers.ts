import type { WantedItem } from '../../contract/goods.ts';

/** Fields of an item in which no number stands where one should. */
export function notNumbers(item: WantedItem): Record<string, string> {
  const amounts = { price: item.price, cost: item.cost };
  const counts = { decimals: item.decimals, minAge: item.minAge, weight: item.weight };
  const bad = (fields: Readonly<Record<string, number | null>>, words: string) =>
    Object.entries(fields).flatMap(([field, value]) =>
      value !== null && Number.isNaN(value) ? [[field, words] as const] : [],
    );
  const groups = item.groupPrices.some(({ price }) => Number.isNaN(price))
    ? [['groupPrices', 'Type an amount.'] as const]
    : [];
  return Object.fromEntries([
    ...bad(amounts, 'Type an amount.'),
    ...bad(counts, 'Type a number.'),
    ...groups,
  ]);
}
