import { v4 as newId } from 'uuid';
import type { Database } from '../server/db/database.ts';
import { browserOf, openDrawer } from '../server/testing/browser.ts';
import type { BasketLine } from '../core/counter/basket.ts';
import { linesToPrice } from '../core/counter/toPrice.ts';
import { priceBasket } from '../core/pricing/price.ts';
import { ratesOn } from '../core/pricing/taxRates.ts';
import { taxRates } from '../server/shop/store.ts';
import type { Serving } from '../server/serve.ts';
import { bareFigures, bareKey, barePayment, barePosting, bareReceipt, bareSale } from './bareRows.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, inTurn, median, quantile, type Figure } from './measure.ts';
import { printed } from './printed.ts';

const ROUNDS = 300;
const LINES = 6;
const LISTED = { price: 3200, name: 'Lesson, 30 min', number: 'LES-30' };

/** A sale of six lines finished through HTTP; the floor writes the same rows with bare SQL, one statement a table. */
export const saleFinish = (): Promise<Figure[]> =>
  onBothEngines((serving, engine) =>
    measure(serving, engine, 'sale-finish', "number = 'LES-30'", {
      words: 'at most 1.5 times the floor',
      met: (_value, ratio) => ratio <= 1.5,
    }),
  );

/** The same with goods that are kept in stock, so that each line takes its cost. */
export const saleFinishStocked = (): Promise<Figure[]> =>
  onBothEngines((serving, engine) =>
    measure(serving, engine, 'sale-finish-stocked', "number like 'MET-%' and price > 0"),
  );

async function measure(
  serving: Serving,
  engine: string,
  name: string,
  which: string,
  goal?: Parameters<typeof figure>[5],
): Promise<Figure[]> {
  const { database } = serving.house;
  const browser = browserOf(() => serving.url);
  await browser.signIn('1357', 1);
  await openDrawer(browser);
  const { items, rates } = await database.ask(async (sql) => ({
    items: await sql.query<Omit<BasketLine, 'id' | 'quantity'>>(
      `select id as "itemId", number, name, unit, decimals, price as "listPrice", tax_category_id as "taxCategoryId"
       from item where ${which} order by id limit ${LINES}`,
    ),
    rates: await taxRates(sql),
  }));
  const first = items[0]?.itemId ?? 0;
  if (first === 0) throw new Error('what is sold is not in the shop');
  /** Six lines of what there is, with what they come to. */
  const ringUp = () => {
    const lines = Array.from({ length: LINES }, (_, at) => items[at % items.length]).flatMap((item) =>
      item ? [{ ...item, id: newId(), quantity: 1000 }] : [],
    );
    const basket = { id: newId(), lines };
    const today = new Date().toISOString().slice(0, 10);
    const { total } = priceBasket(
      linesToPrice(basket, { rates: ratesOn(rates, today), groupPrices: [], goodsOf: () => undefined }),
      { taxMode: 'on-top', taxRounding: 'sale' },
    );
    return { basket, expectedTotal: total, handed: total };
  };
  let receipt = 1_000_000;
  const [throughHttp, floor] = await inTurn(
    ROUNDS,
    async () => {
      const sale = ringUp();
      const { status } = await browser.ask('POST', '/counter/sales', sale, {
        'idempotency-key': sale.basket.id,
      });
      if (status !== 200) throw new Error('a sale was refused');
    },
    () => bare(database, first, receipt++),
    undefined,
    // The receipt comes out while the next customer is greeted.
    () => printed(database),
  );
  return [
    figure(`${name} ${engine}`, 'ms median', median(throughHttp), median(floor), ROUNDS, goal),
    figure(`${name} ${engine} p99`, 'ms p99', quantile(throughHttp, 0.99), quantile(floor, 0.99), ROUNDS),
  ];
}

/** The rows that finishing the sale writes, without asking anything first. */
async function bare(database: Database, itemId: number, receipt: number): Promise<void> {
  const sale = { id: newId(), receipt, at: new Date().toISOString(), total: LINES * LISTED.price };
  const values = Array.from(
    { length: LINES },
    (_, at) => `($1, ${at + 1}, $2, 1, $3, $4, 'each', 1000, $5, $5, $5)`,
  );
  await database.write(async (sql) => {
    await barePayment(sql, sale);
    await bareKey(sql, sale.at);
    await bareSale(sql, sale);
    await sql.query(
      `insert into sale_line (sale_id, position, item_id, category_id, number, name, unit, quantity, unit_price,
        regular, net)
       values ${values.join(', ')}`,
      [sale.id, itemId, LISTED.number, LISTED.name, LISTED.price],
    );
    await sql.query(
      "insert into tender (sale_id, position, kind, amount, handed) values ($1, 1, 'cash', $2, $2)",
      [sale.id, sale.total],
    );
    await barePosting(sql, sale, [
      ['cash', 'till:1', sale.total],
      ['sales', '', 0 - sale.total],
    ]);
    await sql.query(
      "update account_balance set balance = balance + $1 where account = 'cash' and subject = 'till:1'",
      [sale.total],
    );
    await bareFigures(sql, sale, [
      ['category', '1'],
      ['customer', 'none'],
      ['means', '1'],
      ['sale', '1'],
    ]);
    await bareReceipt(sql, sale);
  });
}
