import type { WantedPart } from '../../contract/goods.ts';
import type { Money } from '../../core/money.ts';

/** A part of a bundle, as it is typed. */
export interface PartRow extends WantedPart {
  name: string;
  price: Money | null;
  decimals: number;
}

/** What is wrong with parts before they are sent. */
export const partMistakes = (parts: readonly PartRow[]): Record<string, string | false> => ({
  parts: parts.length === 0 && 'What is in it?',
  ...Object.fromEntries(
    parts.map(({ quantity }, at) => [`parts[${at}].quantity`, !(quantity > 0) && 'How many?']),
  ),
});

export const wantedParts = (parts: readonly PartRow[]): WantedPart[] =>
  parts.map(({ itemId, quantity }) => ({ itemId, quantity }));
