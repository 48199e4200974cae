import { v4 as newId } from 'uuid';
import type { PaymentView } from '../contract/payment.ts';
import type { Database } from '../server/db/database.ts';
import { tenderTypes } from '../server/tenders/store.ts';
import { browserOf, openDrawer } from '../server/testing/browser.ts';
import type { Serving } from '../server/serve.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, inTurn, median, quantile, type Figure } from './measure.ts';

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
  let receipt = 1_000_000;
  const [throughHttp, bare] = await inTurn(
    ROUNDS,
    async () => {
      const line = {
        id: newId(),
        itemId: item.id,
        number: 'LES-30',
        name: 'Lesson, 30 min',
        unit: 'each',
        decimals: 0,
        taxCategoryId: item.tax,
        quantity: 1000,
        listPrice: PRICE,
      };
      const basket = { id: newId(), lines: [line] };
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
    () => bareSplit(database, item.id, receipt++),
  );
  return [
    figure(`split-finish ${engine}`, 'ms median', median(throughHttp), median(bare), ROUNDS),
    figure(`split-finish ${engine} p99`, 'ms p99', quantile(throughHttp, 0.99), quantile(bare, 0.99), ROUNDS),
  ];
}

/** The rows of the same sale in the same three transactions, without asking anything first. */
async function bareSplit(database: Database, itemId: number, receipt: number): Promise<void> {
  const id = newId();
  const at = new Date().toISOString();
  const tenders = [newId(), newId()];
  for (const [place, tender] of tenders.entries()) {
    await database.write(async (sql) => {
      if (place === 0) {
        await sql.query(
          `insert into payment (basket_id, till_id, staff_id, basket, due, began_at) values ($1, 1, 1, '{}', $2, $3)`,
          [id, PRICE, at],
        );
      }
      await sql.query(
        `insert into payment_tender (id, basket_id, position, type_id, state, amount, asked, handed, staff_id, at,
          changed_at)
         values ($1, $2, $3, 5, 'approved', $4, $4, $4, 1, $5, $5)`,
        [tender, id, place + 1, PARTS[place] ?? 0, at],
      );
    });
  }
  await database.write(async (sql) => {
    await sql.query('update till set next_receipt = next_receipt where id = 1');
    await sql.query(
      `insert into sale (id, till_id, shift_id, staff_id, number, business_date, finished_at, hour, currency,
        tax_mode, regular, reductions, tax, total)
       values ($1, 1, 1, 1, $2, ($3::timestamptz)::date, $3, 12, 'USD', 'on-top', $4, 0, 0, $4)`,
      [id, receipt, at, PRICE],
    );
    await sql.query(
      `insert into sale_line (sale_id, position, item_id, category_id, number, name, unit, quantity, unit_price,
        regular, net)
       values ($1, 1, $2, 1, 'LES-30', 'Lesson, 30 min', 'each', 1000, $3, $3, $3)`,
      [id, itemId, PRICE],
    );
    await sql.query(
      `insert into tender (sale_id, position, kind, amount, handed, payment_tender_id)
       values ($1, 1, 'cheque', $2, $2, $5), ($1, 2, 'transfer', $3, $3, $6), ($1, 3, 'cash', $4, $4, null)`,
      [id, PARTS[0], PARTS[1], PARTS[2], tenders[0] ?? '', tenders[1] ?? ''],
    );
    await sql.query(`update payment set state = 'finished' where basket_id = $1`, [id]);
    const [event] = await sql.query<{ id: number }>(
      "insert into ledger_event (kind, at, staff_id, till_id, sale_id, shift_id) values ('sale', $2, 1, 1, $1, 1) returning id",
      [id, at],
    );
    await sql.query(
      `insert into ledger_entry (event_id, position, account, subject, amount)
       values ($1, 1, 'cheques', '', $2), ($1, 2, 'transfers', '', $3), ($1, 3, 'cash', 'till:1', $4),
         ($1, 4, 'sales', '', $5)`,
      [event?.id ?? 0, PARTS[0], PARTS[1], PARTS[2], -PRICE],
    );
    await sql.query(
      "update account_balance set balance = balance + $1 where account = 'cash' and subject = 'till:1'",
      [PARTS[2]],
    );
    await sql.query(
      "insert into print_job (till_id, kind, sale_id, open_drawer, asked_at, state) values (1, 'receipt', $1, true, $2, 'printed')",
      [id, at],
    );
  });
}
