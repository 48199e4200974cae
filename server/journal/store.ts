import type { JournalRow } from '../../contract/journal.ts';
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

export function saleTenders(
  sql: Reader,
  id: string,
): Promise<{ kind: 'cash'; amount: number; handed: number }[]> {
  return sql.query('select kind, amount, handed from tender where sale_id = $1 order by position', [id]);
}
