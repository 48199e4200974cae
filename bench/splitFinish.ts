import { v4 as newId } from 'uuid';
import type { PaymentView } from '../contract/payment.ts';
import type { BasketLine } from '../core/counter/basket.ts';
import type { Database } from '../server/db/database.ts';
import { tenderTypes } from '../server/tenders/store.ts';
import { browserOf, openDrawer } from '../server/testing/browser.ts';
import type { Serving } from '../server/serve.ts';
import { bareFigures, bareKey, barePayment, barePosting, bareReceipt, bareSale } from './bareRows.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, inTurn, median, quantile, type Figure } from './measure.ts';
import { printed } from './printed.ts';

const ROUNDS = 150;
const PRICE = 3200;
const PARTS = [1000, 1200, 1000] as const;

/** A sale split over a cheque, a transfer and cash through HTTP, against the bare SQL that writes the same rows. */
export const splitFinish = (): Promise<Figure[]> => onBothEngines(measure);

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const { database } = serving.house;
  const browser = browserOf(() => serving.url);
  await browser.signIn('1357', 1);
  await openDrawer(browser);
  const types = new Map((await database.ask(tenderTypes)).map(({ kind, id }) => [kind, id]));
  const [item] = await database.ask((sql) =>
    sql.query<{ id: number; tax: number }>(
      "select id, tax_category_id as tax from item where number = 'LES-30'",
    ),
  );
  if (!item) throw new Error('the lesson is not in the shop');
  const ringUp = (): BasketLine => ({
    id: newId(),
    itemId: item.id,
    number: 'LES-30',
    name: 'Lesson, 30 min',
    unit: 'each',
    decimals: 0,
    taxCategoryId: item.tax,
    quantity: 1000,
    listPrice: PRICE,
  });
  let receipt = 1_000_000;
  const [throughHttp, floor] = await inTurn(
    ROUNDS,
    async () => {
      const basket = { id: newId(), lines: [ringUp()] };
      for (const [at, kind] of (['cheque', 'transfer', 'cash'] as const).entries()) {
        const id = newId();
        const { status, body } = await browser.ask<PaymentView>(
          'POST',
          '/payment/tenders',
          {
            id,
            basket,
            expectedTotal: PRICE,
            typeId: types.get(kind),
            amount: PARTS[at],
            reference: '118',
          },
          { 'idempotency-key': id },
        );
        if (status !== 200 || (at === 2 && !body.finished)) throw new Error('a payment was refused');
      }
    },
    () => bareSplit(database, ringUp(), receipt++),
    undefined,
    () => printed(database),
  );
  return [
    figure(`split-finish ${engine}`, 'ms median', median(throughHttp), median(floor), ROUNDS, {
      words: 'at most 2.5 times the floor',
      met: (_value, ratio) => ratio <= 2.5,
    }),
    figure(
      `split-finish ${engine} p99`,
      'ms p99',
      quantile(throughHttp, 0.99),
      quantile(floor, 0.99),
      ROUNDS,
    ),
  ];
}

/** The rows of the same sale in the same three transactions, without asking anything first. */
async function bareSplit(database: Database, line: BasketLine, receipt: number): Promise<void> {
  const sale = { id: newId(), receipt, at: new Date().toISOString(), total: PRICE };
  const basket = JSON.stringify({ id: sale.id, lines: [line] });
  const tenders = [newId(), newId()];
  for (const [place, tender] of tenders.entries()) {
    await database.write(async (sql) => {
      await bareKey(sql, sale.at);
      if (place === 0) {
        await sql.query(
          'insert into payment (basket_id, till_id, staff_id, basket, due, began_at) values ($1, 1, 1, $2, $3, $4)',
          [sale.id, basket, PRICE, sale.at],
        );
      }
      await sql.query(
        `insert into payment_tender (id, basket_id, position, type_id, state, amount, asked, handed, staff_id, at,
          changed_at)
         values ($1, $2, $3, 5, 'approved', $4, $4, $4, 1, $5, $5)`,
        [tender, sale.id, place + 1, PARTS[place] ?? 0, sale.at],
      );
      if (place === 0) {
        // A cheque goes into the drawer at once.
        await sql.query(
          `insert into print_job (till_id, kind, payment_tender_id, open_drawer, asked_at, state)
           values (1, 'drawer-only', $1, true, $2, 'printed')`,
          [tender, sale.at],
        );
      }
      await sql.query("insert into payment_step (tender_id, state, at) values ($1, 'approved', $2)", [
        tender,
        sale.at,
      ]);
    });
  }
  await database.write(async (sql) => {
    await barePayment(sql, sale);
    await bareKey(sql, sale.at);
    await bareSale(sql, sale);
    await sql.query(
      `insert into sale_line (sale_id, position, item_id, category_id, number, name, unit, quantity, unit_price,
        regular, net)
       values ($1, 1, $2, 1, 'LES-30', 'Lesson, 30 min', 'each', 1000, $3, $3, $3)`,
      [sale.id, line.itemId, PRICE],
    );
    await sql.query(
      `insert into tender (sale_id, position, kind, amount, handed, payment_tender_id)
       values ($1, 1, 'cheque', $2, $2, $5), ($1, 2, 'transfer', $3, $3, $6), ($1, 3, 'cash', $4, $4, null)`,
      [sale.id, PARTS[0], PARTS[1], PARTS[2], tenders[0] ?? '', tenders[1] ?? ''],
    );
    await barePosting(sql, sale, [
      ['cheques', 'tender:5', PARTS[0]],
      ['transfers', 'tender:6', PARTS[1]],
      ['cash', 'till:1', PARTS[2]],
      ['sales', '', 0 - PRICE],
    ]);
    await sql.query(
      "update account_balance set balance = balance + $1 where account = 'cash' and subject = 'till:1'",
      [PARTS[2]],
    );
    await bareFigures(sql, sale, [
      ['category', '1'],
      ['customer', 'none'],
      ['means', '1'],
      ['means', '5'],
      ['means', '6'],
      ['sale', '1'],
    ]);
    await bareReceipt(sql, sale);
  });
}
