import { v4 as newId } from 'uuid';
import type { Database } from '../server/db/database.ts';
import { browserOf, openDrawer } from '../server/testing/browser.ts';
import type { BasketLine } from '../core/counter/basket.ts';
import { linesToPrice } from '../core/counter/toPrice.ts';
import { priceBasket } from '../core/pricing/price.ts';
import { ratesOn } from '../core/pricing/taxRates.ts';
import { taxRates } from '../server/shop/store.ts';
import type { Serving } from '../server/serve.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, inTurn, median, quantile, type Figure } from './measure.ts';

const ROUNDS = 300;
const LINES = 6;
const LISTED = { price: 3200, name: 'Lesson, 30 min', number: 'LES-30' };

/** A sale of six lines finished through HTTP; the floor writes the same rows with bare SQL, one statement a table. */
export const saleFinish = (): Promise<Figure[]> =>
  onBothEngines((serving, engine) =>
    measure(serving, engine, 'sale-finish', "number = 'LES-30'", {
      words: 'at most 2 times the floor',
      met: (_value, ratio) => ratio <= 2,
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
  const [throughHttp, bare] = await inTurn(
    ROUNDS,
    async () => {
      const sale = ringUp();
      const { status } = await browser.ask('POST', '/counter/sales', sale, {
        'idempotency-key': sale.basket.id,
      });
      if (status !== 200) throw new Error('a sale was refused');
    },
    () => bareSale(database, first, receipt++),
    undefined,
    // The receipt comes out while the next customer is greeted.
    () => printed(database),
  );
  return [
    figure(`${name} ${engine}`, 'ms median', median(throughHttp), median(bare), ROUNDS, goal),
    figure(`${name} ${engine} p99`, 'ms p99', quantile(throughHttp, 0.99), quantile(bare, 0.99), ROUNDS),
  ];
}

/** Waits until no receipt waits for its printer. */
async function printed(database: Database): Promise<void> {
  const waiting = () =>
    database.ask((sql) => sql.query("select 1 from print_job where state <> 'printed' limit 1"));
  while ((await waiting()).length > 0) await new Promise((go) => setTimeout(go, 2));
}

/** The rows that finishing the sale writes, without asking anything first. */
async function bareSale(database: Database, itemId: number, receipt: number): Promise<void> {
  const id = newId();
  const at = new Date().toISOString();
  const total = LINES * LISTED.price;
  const values = (row: (at: number) => string) =>
    Array.from({ length: LINES }, (_, line) => row(line + 1)).join(', ');
  await database.write(async (sql) => {
    await sql.query('update till set next_receipt = next_receipt where id = 1');
    await sql.query(
      `insert into sale (id, till_id, shift_id, staff_id, number, business_date, finished_at, hour, currency,
        tax_mode, regular, reductions, tax, total)
       values ($1, 1, 1, 1, $2, ($3::timestamptz)::date, $3, 12, 'USD', 'on-top', $4, 0, 0, $4)`,
      [id, receipt, at, total],
    );
    await sql.query(
      `insert into sale_line (sale_id, position, item_id, category_id, number, name, unit, quantity, unit_price,
        regular, net)
       values ${values((line) => `($1, ${line}, $2, 1, $3, $4, 'each', 1000, $5, $5, $5)`)}`,
      [id, itemId, LISTED.number, LISTED.name, LISTED.price],
    );
    await sql.query(
      "insert into tender (sale_id, position, kind, amount, handed) values ($1, 1, 'cash', $2, $2)",
      [id, total],
    );
    const [event] = await sql.query<{ id: number }>(
      "insert into ledger_event (kind, at, staff_id, till_id, sale_id, shift_id) values ('sale', $2, 1, 1, $1, 1) returning id",
      [id, at],
    );
    await sql.query(
      "insert into ledger_entry (event_id, position, account, subject, amount) values ($1, 1, 'cash', 'till:1', $2), ($1, 2, 'sales', '', -($2::bigint))",
      [event?.id ?? 0, total],
    );
    await sql.query(
      "update account_balance set balance = balance + $1 where account = 'cash' and subject = 'till:1'",
      [total],
    );
    await sql.query(
      "insert into print_job (till_id, kind, sale_id, open_drawer, asked_at, state) values (1, 'receipt', $1, true, $2, 'printed')",
      [id, at],
    );
  });
}
