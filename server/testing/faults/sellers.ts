import { v4 as newKey } from 'uuid';
import type { FinishedSale } from '../../../contract/counter.ts';
import type { Catalogue } from '../../../contract/goods.ts';
import type { Browser } from '../browser.ts';

/** A sale that the server said was finished. */
export interface Acknowledged {
  id: string;
  number: string;
  total: number;
}

const TILLS = [
  ['1357', 1],
  ['2468', 2],
] as const;

/** Signs in at both tills and opens their drawers where they are closed. */
export async function openTills(newBrowser: () => Browser): Promise<Browser[]> {
  return Promise.all(
    TILLS.map(async ([pin, tillId]) => {
      const browser = newBrowser();
      await browser.signIn(pin, tillId);
      const { body } = await browser.ask<{ shift: object | null }>('GET', '/drawer');
      if (!body.shift) await browser.ask('POST', '/drawer/shifts', { pieces: { 2000: 10 } });
      return browser;
    }),
  );
}

/**
 * Rings up one sale after the other until the server is gone.
 * @param acknowledged gets every sale that was answered
 * @param open gets the sale that is being asked for, so that it can be asked for again
 */
export async function sellUntilGone(
  browser: Browser,
  acknowledged: Acknowledged[],
  open: Map<Browser, object>,
): Promise<void> {
  const { body } = await browser.ask<Catalogue>('GET', '/goods/catalogue');
  const untaxed = body.items.filter(([, , , category, price]) => category === 'Lessons' && price !== null);
  try {
    for (let at = 0; ; at++) {
      const [itemId = 0, number = '', name = '', , price, , , taxCategoryId = 0] =
        untaxed[at % untaxed.length] ?? [];
      const line = {
        id: newKey(),
        itemId,
        number,
        name,
        unit: 'each',
        decimals: 0,
        taxCategoryId,
        quantity: 1000,
        listPrice: price ?? 0,
      };
      const sale = { basket: { id: newKey(), lines: [line] }, expectedTotal: price ?? 0, handed: price ?? 0 };
      open.set(browser, sale);
      const { status, body: answer } = await browser.ask<FinishedSale>('POST', '/counter/sales', sale, {
        'idempotency-key': sale.basket.id,
      });
      if (status !== 200) throw new Error(`a sale was refused: ${JSON.stringify(answer)}`);
      acknowledged.push({ id: answer.id, number: answer.number, total: answer.total });
      open.delete(browser);
    }
  } catch (error) {
    // The server was killed under the request; anything it answered is a real failure.
    if (error instanceof Error && error.message.startsWith('a sale was refused')) throw error;
  }
}
