import { formatMoney, sum, type Money } from '../money.ts';
import { formatRate, rateOf, WHOLE, type Rate } from '../rate.ts';
import { spread } from '../spread.ts';

/** How much a typed discount takes off: a part, an amount, or whatever brings the goods to a price. */
export type DiscountSize =
  { kind: 'percent'; rate: Rate } | { kind: 'amount'; amount: Money } | { kind: 'target'; price: Money };

/** A discount that somebody gives, with the reason that is printed. */
export interface TypedDiscount {
  id: string;
  /** The lines it is on; `null` is the whole basket. */
  lineIds: string[] | null;
  size: DiscountSize;
  reason: string;
  /** The preset it was made from, if any. */
  presetId?: number | undefined;
  /** Who approved it, where it is above the cashier's limit. */
  countersign?: string | undefined;
}

/** What a discount does to one line that it is on. */
export interface DiscountPart {
  lineId: string;
  discountId: string;
  reason: string;
  /** Zero or less. */
  amount: Money;
}

/** A line as far as it is priced when a discount comes to it. */
export interface DiscountableLine {
  id: string;
  net: Money;
  /** Whether the line may be discounted: goods that come back and stored value may not. */
  open: boolean;
}

/**
 * What one discount takes off each line. A part is rounded half away from zero on every line; an amount is spread in
 * proportion to what the lines cost, by largest remainder, and never takes more than they cost; a target takes what is
 * above it.
 * @returns what is taken off, in the order of the lines that the discount is on; nothing for lines of no price
 */
export function discountParts(discount: TypedDiscount, lines: readonly DiscountableLine[]): DiscountPart[] {
  const { id: discountId, lineIds, size, reason } = discount;
  const on = lines.filter(
    ({ id, net, open }) => open && net > 0 && (lineIds === null || lineIds.includes(id)),
  );
  const nets = on.map(({ net }) => net);
  const amounts = amountsOff(size, nets);
  return on.flatMap(({ id }, at) => {
    const amount = amounts[at] ?? 0;
    return amount === 0 ? [] : [{ lineId: id, discountId, reason, amount: 0 - amount }];
  });
}

function amountsOff(size: DiscountSize, nets: readonly Money[]): Money[] {
  if (nets.length === 0) return [];
  const whole = sum(nets);
  switch (size.kind) {
    case 'percent':
      return nets.map((net) => rateOf(net, Math.min(size.rate, WHOLE)));
    case 'amount':
      return spread(Math.min(size.amount, whole), nets);
    case 'target':
      return spread(Math.max(0, whole - size.price), nets);
  }
}

/**
 * The part of what the goods cost that a discount takes off: its own where it is one, else what it comes to, rounded
 * up, so that a limit is never passed unseen. A part that was rounded up on a line is still that part.
 */
export function discountRate({ size }: TypedDiscount, taken: Money, before: Money): Rate {
  if (size.kind === 'percent') return size.rate;
  if (before <= 0) return 0;
  const [whole, part] = [BigInt(before), BigInt(taken) * BigInt(WHOLE)];
  return Number((part + whole - 1n) / whole);
}

/** A discount that the shop has ready. */
export interface DiscountPreset {
  id: number;
  name: string;
  size: Extract<DiscountSize, { kind: 'percent' | 'amount' }>;
  /** Only when a customer is on the sale. */
  needsCustomer: boolean;
  /** Only for members of this group. */
  group: string | null;
}

/** Whether a discount is just what the shop has ready. */
export function isPreset({ presetId, size }: TypedDiscount, presets: readonly DiscountPreset[]): boolean {
  const preset = presets.find(({ id }) => id === presetId);
  return preset !== undefined && preset.size.kind === size.kind && howMuch(preset.size) === howMuch(size);
}

/** The figure of a size, whatever it means. */
function howMuch(size: DiscountSize): number {
  switch (size.kind) {
    case 'percent':
      return size.rate;
    case 'amount':
      return size.amount;
    case 'target':
      return size.price;
  }
}

/** Who a preset asks for, where the sale is not for such a person; `null` where it may be given. */
export function presetNeeds(
  { name, needsCustomer, group }: DiscountPreset,
  customer: { name: string; groups: readonly string[] } | null,
): string | null {
  if (!needsCustomer) return null;
  if (!customer)
    return group ? `${name} is for members of ${group}.` : `${name} is for customers that we know.`;
  if (group && !customer.groups.includes(group))
    return `${name} is for members of ${group}: ${customer.name} is none.`;
  return null;
}

/** A size in words: `15 %`, `5.00 off`, `to 50.00`. */
export function sizeWords(size: DiscountSize, digits: number): string {
  if (size.kind === 'percent') return formatRate(size.rate);
  return size.kind === 'amount'
    ? `${formatMoney(size.amount, digits)} off`
    : `to ${formatMoney(size.price, digits)}`;
}
