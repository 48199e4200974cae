import type { OfferGoods } from './offer.ts';

/** What words about offers need to know. */
export interface OfferNames {
  item(id: number): string;
  place(id: number): string;
  digits: number;
  /** What points are called. */
  points: string;
}

/** `a, b and c`. */
export function list(parts: readonly string[], last: 'and' | 'or'): string {
  if (parts.length < 2) return parts[0] ?? '';
  return `${parts.slice(0, -1).join(', ')} ${last} ${parts.at(-1) ?? ''}`;
}

/** The goods that an offer means: `Reeds or Strings`, `anything`. */
export function goodsWords({ itemIds, categories }: OfferGoods, names: OfferNames): string {
  const parts = [...categories, ...itemIds.map((id) => names.item(id))];
  if (parts.length === 0) return 'anything';
  return parts.length <= 4
    ? list(parts, 'or')
    : `${parts.slice(0, 3).join(', ')} or ${parts.length - 3} others`;
}
