import { createHash, randomUUID } from 'node:crypto';
import bwip from 'bwip-js/node';
import express, { type Express, type Response } from 'express';
import type { WebBook, WebOrder } from './book.ts';
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
} from './pages.ts';
import { place, quoteOf, usual } from './placing.ts';
import { sendOrder, takeState, type ToldState } from './sending.ts';
import { askShop } from './shopLine.ts';
import { isSigned, SIGNATURE_HEADER } from './tell.ts';

const MOST_LISTED = 40;
const secretOf = ({ key }: WebBook): string => createHash('sha256').update(key).digest('hex');
const wordsOf = (error: unknown): string =>
  error instanceof Error ? error.message : 'Something went wrong.';

/** What the pages work with. */
interface Shopping {
  book: WebBook;
  keep(): void;
  shop: string;
  send(): Promise<void>;
}

/** The pages of the web shop, and where it is told how its orders stand. */
export function webShopApp({ book, keep, shop, send }: Shopping): Express {
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
