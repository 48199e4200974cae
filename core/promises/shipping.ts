import { multiplyDivide, sum, type Money } from '../money.ts';
import { ONE, formatQuantity, type Quantity } from '../quantity.ts';

/** Up to a weight, a fee. */
export interface ShipStep {
  /** Grams. */
  upTo: number;
  fee: Money;
}

/** Addresses that cost the same. */
export interface ShipZone {
  name: string;
  /** What a postcode begins with; nothing stands for all that no other zone names. */
  postcodes: readonly string[];
  /** By weight, the lightest first. */
  steps: readonly ShipStep[];
}

const plain = (postcode: string): string => postcode.replaceAll(/[\s-]/g, '').toUpperCase();

/** The zone of a postcode: the one that names most of it. @returns nothing where the shop does not ship to */
export function zoneOf(zones: readonly ShipZone[], postcode: string): ShipZone | null {
  const wanted = plain(postcode);
  let found: { zone: ShipZone; length: number } | null = null;
  for (const zone of zones) {
    const begins = zone.postcodes.length === 0 ? [''] : zone.postcodes.map(plain);
    for (const begin of begins) {
      if (wanted.startsWith(begin) && (!found || begin.length > found.length))
        found = { zone, length: begin.length };
    }
  }
  return found?.zone ?? null;
}

/** What shipping costs, or why it cannot be shipped. @param weight grams */
export function shipFee(
  zones: readonly ShipZone[],
  postcode: string,
  weight: number,
): { zone: string; fee: Money } | string {
  const zone = zoneOf(zones, postcode);
  if (!zone) return 'The shop does not ship there.';
  const step = zone.steps.find(({ upTo }) => weight <= upTo);
  const most = zone.steps.at(-1)?.upTo ?? 0;
  return step
    ? { zone: zone.name, fee: step.fee }
    : `To ${zone.name} a parcel weighs at most ${formatWeight(most)}; this one has ${formatWeight(weight)}.`;
}

/** What goods weigh together, in grams, rounded up. @param usual what an item weighs of which it is not known */
export const weightOf = (
  lines: readonly { weight: number | null; quantity: Quantity }[],
  usual: number,
): number =>
  sum(lines.map(({ weight, quantity }) => 0 - multiplyDivide(0 - (weight ?? usual), quantity, ONE)));

/** `0.45 kg` */
export const formatWeight = (grams: number): string => `${formatQuantity(grams)} kg`;
