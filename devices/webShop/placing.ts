import { randomUUID } from 'node:crypto';
import type { WebBook, WebOrder } from './book.ts';
import type { Typed, WebQuote } from './pages.ts';
import { askShop } from './shopLine.ts';

/** What goods come to, sent where somebody has typed, or collected. */
export const quoteOf = (
  shop: string,
  { key }: WebBook,
  lines: readonly { number: string; quantity: number }[],
  typed: Typed,
): Promise<WebQuote> =>
  askShop<WebQuote>(shop, key, 'POST', '/quotes', {
    lines,
    postcode: typed.way === 'ship' ? (typed.postcode ?? '') : null,
  });

/** What stands in the form of an order before anything is typed. */
export const usual = ({ places: [first] }: WebQuote): Typed => ({
  way: 'collect',
  pay: 'now',
  place: String(first?.id ?? ''),
  day: first?.first?.day ?? '',
  time: first?.first?.time ?? '',
});

/** Writes an order into the book, under the next number. */
export function place(book: WebBook, quote: WebQuote, typed: Typed): WebOrder {
  const order = orderOf(book, quote, typed);
  book.next += 1;
  book.orders.push(order);
  return order;
}

/** The order that somebody has typed. */
function orderOf({ next }: WebBook, quote: WebQuote, typed: Typed): WebOrder {
  const { name = '', mail = '', phone = '', note = '', pay } = typed;
  const reference = `WEB-${next}`;
  return {
    reference,
    at: new Date().toISOString(),
    customer: { name, mail, phone },
    lines: quote.lines.map(({ number, name: called, quantity, unitPrice }) => ({
      number,
      name: called,
      quantity,
      unitPrice,
    })),
    collect:
      typed.way === 'ship'
        ? null
        : { placeId: Number(typed.place), day: typed.day ?? '', time: typed.time ?? '', collector: '' },
    ship:
      typed.way === 'ship'
        ? {
            recipient: name,
            street: typed.street ?? '',
            postcode: typed.postcode ?? '',
            city: typed.city ?? '',
            phone,
            wishes: '',
            gift: false,
          }
        : null,
    fee: quote.fee,
    total: quote.total,
    note,
    trouble: pay === 'fails' ? 'The card was refused.' : '',
    payment: pay === 'now' ? { reference: randomUUID(), amount: quote.total } : null,
    later: [],
    number: null,
    sent: 0,
    refused: false,
    cancelling: false,
    state: '',
    words: '',
    open: pay === 'now' ? 0 : quote.total,
    givenBack: 0,
    message: 0,
    said: '',
  };
}
