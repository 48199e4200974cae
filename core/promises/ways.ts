import type { Quantity } from '../quantity.ts';

/** How goods get to the customer. */
export const WAYS = { take: 'Take now', collect: 'Collect', ship: 'Ship' } as const;

export type Way = keyof typeof WAYS;

/** What is known of a line of an order beside its goods and prices. */
export interface OrderLine {
  way: Way;
  /** Where the goods are, or are picked. */
  placeId: number;
  place: string;
  /** Units that were picked, those that left among them. */
  picked: Quantity;
  /** Units that nobody has found. */
  short: Quantity;
  /** On the way to the place where they are collected. */
  sent: boolean;
}
