import type { JournalPage, JournalRow, JournalSale } from '../../contract/journal.ts';
import type { Paper } from '../../core/journal/paper.ts';
import { giftReceipt, receipt, type ReceiptData } from '../../core/journal/receipt.ts';
import { parseReceiptNumber, receiptNumber } from '../../core/journal/receiptNumber.ts';
import { sum } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { businessDate, iso, shopTime } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { readShop } from '../setup/store.ts';
import * as store from './store.ts';

const PAGE = 100;

const TENDER_NAMES = { cash: 'Cash' } as const;

/** The sales of a day, newest first, or the one with a receipt number. @param page from 0 */
export async function journalPage(
  sql: Reader,
  wanted: { date: string | undefined; find: string; page: number },
  now: Date,
): Promise<JournalPage> {
  const { timezone } = await readShop(sql);
  const date = wanted.date ?? businessDate(now, timezone);
  const number = parseReceiptNumber(wanted.find);
  if (wanted.find && !number) return { date, rows: [], count: 0, total: 0 };
  const filter: store.JournalFilter = { date, receipt: number };
  const rows = await store.listSales(sql, filter, PAGE, wanted.page * PAGE);
  return { date, rows: rows.map(journalRow), ...(await store.countSales(sql, filter)) };
}

/** A sale with its receipt. @throws Problem 404 */
export async function journalSale(sql: Reader, id: string): Promise<JournalSale> {
  const sale = await findSale(sql, id);
  return {
    ...journalRow(sale),
    paper: await receiptPaper(sql, id),
    printedAt: sale.printedAt && iso(sale.printedAt),
  };
}

/** A paper about a stored sale, made from what was stored. @throws Problem 404 */
export async function receiptPaper(
  sql: Reader,
  id: string,
  kind: 'receipt' | 'copy' | 'gift-receipt' = 'receipt',
): Promise<Paper> {
  const data = await receiptData(sql, id);
  return kind === 'gift-receipt' ? giftReceipt(data) : receipt(data, { copy: kind === 'copy' });
}

async function receiptData(sql: Reader, id: string): Promise<ReceiptData> {
  const sale = await findSale(sql, id);
  const shop = await readShop(sql);
  const tenders = await store.saleTenders(sql, id);
  const { exemptReason: reason, exemptCertificate: certificate } = sale;
  return {
    shop: { name: shop.name, words: shop.receiptWords, thanks: shop.receiptThanks },
    place: sale.place,
    till: `Till ${sale.till}`,
    number: receiptNumber(sale.till, sale.count),
    when: shopTime(sale.finishedAt, shop),
    cashier: sale.cashier,
    customer: sale.customer,
    digits: currencyOf(sale.currency).digits,
    currency: sale.currency,
    lines: await store.saleLines(sql, id),
    regular: sale.regular,
    reductions: sale.reductions,
    taxes: await store.saleTaxes(sql, id),
    taxMode: sale.taxMode,
    total: sale.total,
    note: sale.note,
    exemption: reason === null ? null : { reason, certificate },
    tenders: tenders.map(({ kind, handed }) => ({ name: TENDER_NAMES[kind], amount: handed })),
    change: sum(tenders.map(({ handed, amount }) => handed - amount)),
  };
}

async function findSale(sql: Reader, id: string) {
  const sale = await store.findSale(sql, id);
  if (!sale) throw new Problem(404, 'no-sale', 'There is no such sale.');
  return sale;
}

function journalRow({
  id,
  count,
  finishedAt,
  cashier,
  till,
  units,
  lines,
  firstLine,
  total,
}: store.SaleRow): JournalRow {
  const number = receiptNumber(till, count);
  return { id, number, finishedAt: iso(finishedAt), cashier, till, units, lines, firstLine, total };
}
