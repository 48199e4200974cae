import { listening } from '../listening.ts';
import { webShopApp } from './app.ts';
import { openBook } from './book.ts';
import type { Typed } from './pages.ts';
import { place, quoteOf, usual } from './placing.ts';
import { sendAll } from './sending.ts';
import { askShop } from './shopLine.ts';

/** Where the web shop is, and where the shop is that it orders from. */
export interface WebShopOptions {
  folder: string;
  port: number;
  /** The shop's address, e.g. `http://localhost:4180`. */
  shop: string;
  /** The key of the channel, until another one is typed. */
  key: string;
  /** Orders that it places first of all, where its book is empty. */
  first?: readonly FirstOrder[];
}

/** An order of the made-up shop's customers. */
export interface FirstOrder {
  typed: Typed;
  goods: readonly (readonly [number: string, quantity: number])[];
}

export interface WebShop {
  url: string;
  stop(): Promise<void>;
}

const AGAIN_MS = 1_000;

/**
 * A web shop of its own, with its own book and its own pages: somebody orders made-up goods and pays, pays later, or
 * cannot pay. It speaks to the shop by HTTP like every channel, sends what the shop does not have until the shop
 * takes it, and hears how its orders stand.
 */
export async function startWebShop({
  folder,
  port,
  shop,
  key,
  first = [],
}: WebShopOptions): Promise<WebShop> {
  const { book, keep } = openBook(folder, key);
  let sending = Promise.resolve();
  const send = () => (sending = sending.then(() => sendAll(shop, book)).then(keep));
  const { server, url } = await listening(webShopApp({ book, keep, shop, send }), port);
  let introduced = '';
  async function introduce(): Promise<void> {
    if (introduced === book.key) return;
    const { key: now } = book;
    await askShop(shop, now, 'PUT', '/address', { address: `${url}/told` });
    introduced = now;
  }
  async function placeFirst(): Promise<void> {
    for (const { typed, goods } of book.orders.length === 0 ? first : []) {
      const lines = goods.map(([number, quantity]) => ({ number, quantity }));
      const quote = await quoteOf(shop, book, lines, typed);
      place(book, quote, { ...usual(quote), ...typed });
    }
    keep();
    await send();
  }
  await introduce()
    .then(placeFirst)
    // The shop may be closed: what it has not got is sent when it opens.
    .catch(() => undefined);
  // Until the shop is there, and whenever something waits.
  const again = setInterval(() => void introduce().then(send, () => undefined), AGAIN_MS);
  again.unref();
  return {
    url,
    async stop() {
      clearInterval(again);
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
      await sending;
    },
  };
}
