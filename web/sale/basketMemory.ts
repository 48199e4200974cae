import type { FinishedSale, FinishSale } from '../../contract/counter.ts';
import type { Money } from '../../core/money.ts';
import type { Basket } from '../../core/counter/basket.ts';

/** What a till keeps in the browser, written before anything is sent, so that a reload finds it. */
export interface BasketMemory {
  basket: Basket;
  /** The revision that the server had when it was last heard. */
  revision: number;
  /** Whether there is something that the server has not stored yet. */
  unsent: boolean;
  /** A payment that was asked for and not answered. */
  paying?: FinishSale;
  /** The last sale, until the next one begins: its change may not have been given yet. */
  finished?: FinishedSale;
  /** Change of the sale before, which the goods of this one took out of sight. */
  changeDue?: Money;
}

const keyOf = (tillId: number) => `mondrel.basket.${tillId}`;

export function recallBasket(tillId: number): BasketMemory | null {
  const stored = localStorage.getItem(keyOf(tillId));
  return stored ? (JSON.parse(stored) as BasketMemory) : null;
}

export function keepBasket(tillId: number, memory: BasketMemory): void {
  localStorage.setItem(keyOf(tillId), JSON.stringify(memory));
}
