import { createHash, randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import bwip from 'bwip-js/node';
import express, { type Express, type Response } from 'express';
import { openBook, type WebBook, type WebOrder } from './book.ts';
import {
  closedPage,
  goodsPage,
  keyPage,
  oneOrderPage,
  orderPage,
  ordersPage,
  STYLE,
  type Typed,
  type WebGoods,
  type WebQuote,
} from './pages.ts';
import { sendAll, sendOrder, takeState, type ToldState } from './sending.ts';
import { askShop } from './shopLine.ts';
import { isSigned, SIGNATURE_HEADER } from './tell.ts';

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
const MOST_LISTED = 40;
const secretOf = ({ key }: WebBook): string => createHash('sha256').update(key).digest('hex');
const wordsOf = (error: unknown): string =>
  error instanceof Error ? error.message : 'Something went wrong.';

/**
 * A web shop of its own, with its own book and its own pages: somebody orders made-up goods and pays, pays later, or cannot
 * pay. It speaks to the shop by HTTP as any channel would, sends what the shop does not have until the shop takes it, and
 * hears how its orders stand.
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
  const app = webShopApp({ book, keep, shop, send });
  const server = createServer(app);
  await new Promise<void>((done, fail) => server.once('error', fail).listen(port, done));
  const url = `http://localhost:${(server.address() as AddressInfo).port}`;
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

interface Shopping {
  book: WebBook;
  keep(): void;
  shop: string;
  send(): Promise<void>;
}

function webShopApp({ book, keep, shop, send }: Shopping): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(express.urlencoded({ extended: false }));
  app.get('/style.css', (_request, response) => void response.type('css').send(STYLE));

  const goodsOf = () => askShop<WebGoods>(shop, book.key, 'GET', '/goods');
  const nameOf = async () => (await goodsOf().catch(() => ({ shop: 'The shop' }))).shop;
  const closed = (response: Response) => (error: unknown) => {
    response.status(503).send(closedPage(wordsOf(error)));
  };

  app.get('/', async (request, response) => {
    const find = typeof request.query.find === 'string' ? request.query.find : '';
    const begins = find.toLowerCase().split(/\s+/).filter(Boolean);
    await goodsOf()
      .then(({ goods, ...rest }) => {
        const found = goods.filter(({ name, number }) => {
          const words = `${name} ${number}`.toLowerCase();
          return begins.every((begin) => words.includes(begin));
        });
        response.send(goodsPage({ ...rest, goods: found.slice(0, MOST_LISTED) }, find));
      })
      .catch(closed(response));
  });

  app.get('/order', async (request, response) => {
    const lines = Object.entries(request.query).flatMap(([number, typed]) =>
      Number(typed) > 0 ? [{ number, quantity: Math.trunc(Number(typed)) }] : [],
    );
    if (lines.length === 0) {
      response.redirect(303, '/');
      return;
    }
    await quoteOf(shop, book, lines, {})
      .then(async (quote) => {
        response.send(orderPage(await nameOf(), quote, usual(quote), ''));
      })
      .catch(closed(response));
  });

  app.post('/order', async (request, response) => {
    const typed = request.body as Typed;
    const lines = Object.entries(typed).flatMap(([name, quantity]) =>
      name.startsWith('item:') ? [{ number: name.slice(5), quantity: Number(quantity) }] : [],
    );
    try {
      const quote = await quoteOf(shop, book, lines, typed);
      const wrong = typed.name?.trim() ? '' : 'Who orders?';
      if (typed.do !== 'order' || wrong) {
        response.send(orderPage(await nameOf(), quote, typed, typed.do === 'order' ? wrong : ''));
        return;
      }
      const order = place(book, quote, typed);
      keep();
      await send();
      response.redirect(303, `/orders/${order.reference}`);
    } catch (error) {
      const plain = await quoteOf(shop, book, lines, {}).catch(() => null);
      if (plain) response.send(orderPage(await nameOf(), plain, typed, wordsOf(error)));
      else closed(response)(error);
    }
  });

  app.get('/orders', async (_request, response) => {
    response.send(ordersPage(await nameOf(), book.orders));
  });

  const orderIn = (reference: string | undefined): WebOrder | undefined =>
    book.orders.find((order) => order.reference === reference);

  app.get('/orders/:reference', async (request, response, next) => {
    const order = orderIn(request.params.reference);
    if (!order) return void next();
    const barcode = bwip.toSVG({
      bcid: 'code128',
      text: order.reference,
      includetext: true,
      scale: 2,
      height: 12,
    });
    response.send(oneOrderPage(await nameOf(), order, barcode));
  });

  const act = (name: string, work: (order: WebOrder) => void | Promise<void>) =>
    app.post(`/orders/:reference/${name}`, async (request, response, next) => {
      const order = orderIn(request.params.reference);
      if (!order) return void next();
      order.said = '';
      await Promise.resolve(work(order)).catch((error: unknown) => (order.said = wordsOf(error)));
      keep();
      await send();
      response.redirect(303, `/orders/${order.reference}`);
    });
  act('cancelled', (order) => void (order.cancelling = true));
  act('sent', (order) => sendOrder(shop, book, order));
  act('paid', ({ later, open }) => void later.push({ reference: randomUUID(), amount: open, sent: false }));

  app.get('/key', async (_request, response) => {
    response.send(keyPage(await nameOf(), book.key.slice(-4), ''));
  });
  app.post('/key', async (request, response) => {
    const typed = String((request.body as Typed).key ?? '').trim();
    if (!/^[\da-f]{64}$/.test(typed)) {
      const wrong = 'A key has 64 digits and letters from a to f.';
      response.send(keyPage(await nameOf(), book.key.slice(-4), wrong));
      return;
    }
    book.key = typed;
    keep();
    response.redirect(303, '/');
  });

  // What the shop tells: signed, and whatever comes late counts no more.
  app.post('/told', express.text({ type: 'application/json' }), (request, response) => {
    const text = String(request.body);
    if (!isSigned(text, request.get(SIGNATURE_HEADER) ?? '', secretOf(book))) {
      response.status(401).end();
      return;
    }
    const told = JSON.parse(text) as ToldState & { reference: string; message: number };
    const order = orderIn(told.reference);
    if (order && told.message > order.message) {
      order.message = told.message;
      takeState(order, told);
      keep();
    }
    response.status(204).end();
  });
  return app;
}

/** What goods come to, sent where somebody has typed, or collected. */
const quoteOf = (
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
const usual = ({ places: [first] }: WebQuote): Typed => ({
  way: 'collect',
  pay: 'now',
  place: String(first?.id ?? ''),
  day: first?.first?.day ?? '',
  time: first?.first?.time ?? '',
});

/** Writes an order into the book, under the next number. */
function place(book: WebBook, quote: WebQuote, typed: Typed): WebOrder {
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
