import { decimalsProblem, type Quantity } from '../quantity.ts';
import type { ItemKind } from './item.ts';

/** What a bundle may be made of, as far as that says whether it can be. */
export interface PossiblePart {
  name: string;
  kind: ItemKind;
  active: boolean;
  decimals: number;
}

export const MOST_PARTS = 30;

/** What keeps an item from being a part of a bundle. @param item nothing where there is none */
export function partProblem(item: PossiblePart | undefined, quantity: Quantity): string | null {
  if (!item) return 'There is no such item.';
  if (item.kind !== 'goods') return `${item.name} is no single item.`;
  if (!item.active) return `${item.name} is not sold any more.`;
  return decimalsProblem(quantity, item.decimals);
}
