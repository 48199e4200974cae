import type { WebBook, WebOrder } from './book.ts';
import { askShop, Refused } from './shopLine.ts';

/** How an order stands, as the shop says. */
export interface ToldState {
  number: string;
  state: string;
  words: string;
  open: number;
  givenBack: number;
}

export const takeState = (order: WebOrder, { number, state, words, open, givenBack }: ToldState): void => {
  Object.assign(order, { number, state, words, open, givenBack });
};

/** What the shop is sent of an order: the same every time. */
function bodyOf(order: WebOrder): object {
  const { reference, customer, lines, collect, ship, fee, total, payment, trouble, note } = order;
  return {
    reference,
    customer,
    lines: lines.map(({ number, quantity, unitPrice }) => ({ number, quantity, unitPrice })),
    collect,
    ship,
    fee,
    total,
    payment,
    trouble,
    note,
  };
}

/** Sends an order to the shop, also once more. @throws Error where that cannot be done now */
export async function sendOrder(shop: string, { key }: WebBook, order: WebOrder): Promise<void> {
  order.sent += 1;
  takeState(order, await askShop<ToldState>(shop, key, 'POST', '/orders', bodyOf(order)));
}

/** Sends what the shop does not have of an order: itself, payments that came later, that it was cancelled. */
async function sendRest(shop: string, book: WebBook, order: WebOrder): Promise<void> {
  if (order.number === null) await sendOrder(shop, book, order);
  for (const payment of order.later.filter(({ sent }) => !sent)) {
    const { reference, amount } = payment;
    const path = `/orders/${order.reference}/payments`;
    takeState(order, await askShop<ToldState>(shop, book.key, 'POST', path, { reference, amount }));
    payment.sent = true;
  }
  if (order.cancelling) {
    takeState(
      order,
      await askShop<ToldState>(shop, book.key, 'POST', `/orders/${order.reference}/cancelled`, {}),
    );
    order.cancelling = false;
  }
}

const waits = (order: WebOrder): boolean =>
  !order.refused && (order.number === null || order.cancelling || order.later.some(({ sent }) => !sent));

/** Sends all that the shop does not have. What it refuses is not sent again; what cannot be sent now waits. */
export async function sendAll(shop: string, book: WebBook): Promise<void> {
  for (const order of book.orders.filter(waits)) {
    try {
      await sendRest(shop, book, order);
      order.said = '';
    } catch (error) {
      order.said = error instanceof Error ? error.message : 'It could not be sent.';
      if (!(error instanceof Refused)) continue;
      if (order.number === null) order.refused = true;
      // What was paid in vain goes back at once.
      order.later = order.later.filter(({ sent }) => sent);
      order.cancelling = false;
    }
  }
}
