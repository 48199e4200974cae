import { presetNeeds, type DiscountPreset, type TypedDiscount } from '../pricing/discount.ts';

/** Discounts of a basket as its customer may have them. */
export interface SettledDiscounts {
  on: TypedDiscount[];
  /** Presets that ask for somebody else: they come back with who may have them. */
  aside: TypedDiscount[];
  /** Names of what was put aside just now, and of what came back. */
  gone: string[];
  back: string[];
}

/**
 * Presets for customers or members go and come with them.
 * @param aside what was put aside of the same basket before
 * @param customer who is on the sale, with their groups
 */
export function settleDiscounts(
  discounts: readonly TypedDiscount[],
  aside: readonly TypedDiscount[],
  presets: readonly DiscountPreset[],
  customer: { name: string; groups: readonly string[] } | null,
): SettledDiscounts {
  const presetOf = ({ presetId }: TypedDiscount) => presets.find(({ id }) => id === presetId);
  const fits = (discount: TypedDiscount): boolean => {
    const preset = presetOf(discount);
    return preset === undefined || presetNeeds(preset, customer) === null;
  };
  const known = new Set(discounts.map(({ id }) => id));
  const waiting = aside.filter(({ id }) => !known.has(id));
  const nameOf = (discount: TypedDiscount) => presetOf(discount)?.name ?? discount.reason;
  return {
    on: [...discounts.filter(fits), ...waiting.filter(fits)],
    aside: [...discounts, ...waiting].filter((one) => !fits(one)),
    gone: discounts.filter((one) => !fits(one)).map(nameOf),
    back: waiting.filter(fits).map(nameOf),
  };
}
