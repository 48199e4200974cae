import type { JournalRow } from '../../contract/journal.ts';
import type { StoredValueKind } from '../../core/payment/storedValue.ts';
import type { PriceRecord } from '../../core/offers/price.ts';
import type { TaxAmount, TaxMode } from '../../core/offers/tax.ts';
import { one, type Parameter, type Reader } from '../db/database.ts';

export type SaleRow = Omit<JournalRow, 'number'> & { count: number; tillId: number };

const COLUMNS = `sale.id, sale.number as count, sale.finished_at as "finishedAt", staff.name as cashier,
  till.number as till, till.id as "tillId", sale.total,
  (select count(*) from sale_line where sale_id = sale.id)::integer as lines,
  (select sum(quantity) from sale_line where sale_id = sale.id)::bigint as units,
  (select name from sale_line where sale_id = sale.id and position = 1) as "firstLine"`;

const FROM = 'from sale join staff on staff.id = sale.staff_id join till on till.id = sale.till_id';

export interface JournalFilter {
  date: string;
  /** A receipt's till and count, to find one sale whatever its day. */
  receipt: { till: number; count: number } | null;
}

function where({ date, receipt }: JournalFilter): { sql: string; parameters: Parameter[] } {
  return receipt
    ? { sql: 'where till.number = $1 and sale.number = $2', parameters: [receipt.till, receipt.count] }
    : { sql: 'where sale.business_date = $1', parameters: [date] };
}

export function listSales(
  sql: Reader,
  filter: JournalFilter,
  most: number,
  skip: number,
): Promise<SaleRow[]> {
  const condition = where(filter);
  return sql.query<SaleRow>(
    `select ${COLUMNS} ${FROM} ${condition.sql}
     order by sale.finished_at desc, sale.number desc limit ${Math.trunc(most)} offset ${Math.trunc(skip)}`,
    condition.parameters,
  );
}

export async function countSales(
  sql: Reader,
  filter: JournalFilter,
): Promise<{ count: number; total: number }> {
  const condition = where(filter);
  const rows = await sql.query<{ count: number; total: number }>(
    `select count(*)::integer as count, coalesce(sum(sale.total), 0)::bigint as total ${FROM} ${condition.sql}`,
    condition.parameters,
  );
  return one(rows);
}

export async function findSale(sql: Reader, id: string): Promise<(SaleRow & SaleFigures) | undefined> {
  const [row] = await sql.query<SaleRow & SaleFigures>(
    `select ${COLUMNS}, place.name as place, sale.currency, sale.tax_mode as "taxMode", sale.regular, sale.reductions,
            (select name from customer where customer.id = sale.customer_id) as customer,
            sale.donation, sale.cash_rounding as "cashRounding",
            (select name from fund where fund.id = sale.fund_id) as fund,
            sale.note, sale.exempt_reason as "exemptReason", sale.exempt_certificate as "exemptCertificate",
            (select max(printed_at) from print_job where sale_id = sale.id) as "printedAt"
     ${FROM} join place on place.id = till.place_id where sale.id = $1`,
    [id],
  );
  return row;
}

export interface SaleFigures {
  place: string;
  currency: string;
  taxMode: TaxMode;
  regular: number;
  reductions: number;
  customer: string | null;
  donation: number;
  fund: string | null;
  cashRounding: number;
  note: string;
  exemptReason: string | null;
  exemptCertificate: string;
  printedAt: string | null;
}

export interface SaleLineRow {
  number: string;
  name: string;
  unit: string;
  quantity: number;
  unitPrice: number;
  regular: number;
  net: number;
  records: PriceRecord[];
  note: string;
  gift: boolean;
  serial: string | null;
}

export function saleLines(sql: Reader, id: string): Promise<SaleLineRow[]> {
  return sql.query<SaleLineRow>(
    `select number, name, unit, quantity, unit_price as "unitPrice", regular, net, records, note, gift, serial
     from sale_line where sale_id = $1 order by position`,
    [id],
  );
}

export function saleTaxes(sql: Reader, id: string): Promise<TaxAmount[]> {
  return sql.query<TaxAmount>(
    'select tax_rate_id as "rateId", name, rate, base, tax from sale_tax where sale_id = $1 order by position',
    [id],
  );
}

export interface SaleTenderRow {
  name: string;
  amount: number;
  handed: number;
  tip: number;
  entry: string | null;
  approval: string | null;
  signature: string;
}

export function saleTenders(sql: Reader, id: string): Promise<SaleTenderRow[]> {
  return sql.query<SaleTenderRow>(
    `select tender.name, tender.amount, tender.handed, tender.tip, held.entry, held.approval,
            coalesce(held.signature, '') as signature
     from tender left join payment_tender as held on held.id = payment_tender_id
     where sale_id = $1 order by tender.position`,
    [id],
  );
}

/** A gift card with what was put on it when it was sold. */
export async function soldCard(
  sql: Reader,
  id: number,
): Promise<{ kind: StoredValueKind; number: string; amount: number; expiresOn: string | null } | undefined> {
  const [row] = await sql.query<{
    kind: StoredValueKind;
    number: string;
    amount: number;
    expiresOn: string | null;
  }>(
    `select value.kind, number, expires_on as "expiresOn", coalesce((select amount from stored_value_move
       where stored_value_id = value.id order by stored_value_move.id limit 1), 0)::bigint as amount
     from stored_value as value where id = $1`,
    [id],
  );
  return row;
}

/** Whether the receipt of a sale came out of a printer. */
export async function wasPrinted(sql: Reader, saleId: string): Promise<boolean> {
  const rows = await sql.query(
    "select 1 from print_job where sale_id = $1 and kind in ('receipt', 'copy') limit 1",
    [saleId],
  );
  return rows.length > 0;
}

/** Remembers how the customer of a sale wants receipts; an address that was not known is noted. */
export async function rememberReceipt(
  sql: Reader,
  saleId: string,
  by: 'print' | 'mail' | 'text' | 'none',
  to: string,
): Promise<void> {
  await sql.query(
    `update customer set receipt_by = $2,
       mail = case when $2 = 'mail' and $3 <> '' then $3 else mail end,
       phone = case when $2 = 'text' and $3 <> '' then $3 else phone end
     where id = (select customer_id from sale where id = $1)`,
    [saleId, by, to],
  );
}

/** Where the customer of a sale can be written to. */
export async function receiptCustomer(
  sql: Reader,
  saleId: string,
): Promise<{ name: string; mail: string; phone: string; by: string } | null> {
  const [row] = await sql.query<{ name: string; mail: string; phone: string; by: string }>(
    `select customer.name, mail, phone, receipt_by as by from customer join sale on sale.customer_id = customer.id
     where sale.id = $1`,
    [saleId],
  );
  return row ?? null;
}
