import type {
  JournalRow,
  JournalSale,
  LedgerLine,
  SaleAfterwards,
  SalePageLine,
} from '../../contract/journal.ts';
import type { StoredValueKind } from '../../core/giftCards/storedValue.ts';
import type { PriceRecord } from '../../core/pricing/price.ts';
import type { TaxAmount, TaxMode } from '../../core/pricing/tax.ts';
import { wordsFor } from '../books/booksStore.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import type { Where } from './searchStore.ts';

export type SaleRow = Omit<JournalRow, 'number'> & { count: number; tillId: number };

const COLUMNS = `sale.id, sale.number as count, sale.finished_at as "finishedAt", staff.name as cashier,
  till.number as till, till.id as "tillId", sale.total, sale.kind,
  (select state from sale_void where sale_id = sale.id) as voided,
  (select name from customer where customer.id = sale.customer_id) as customer, goods.lines, goods.units,
  goods."firstLine"`;

const BESIDE = `join staff on staff.id = sale.staff_id join till on till.id = sale.till_id
  cross join lateral (
    select count(*)::integer as lines, sum(quantity)::bigint as units,
      max(name) filter (where position = 1) as "firstLine"
    from sale_line where sale_id = sale.id) as goods`;
const NEWEST_FIRST = 'order by sale.finished_at desc, sale.number desc, sale.id desc';

const searching = (sql: Reader, { plain }: Where) => (plain ? sql.query : sql.search);

/** Sales that fit, newest first. @param fits condition of `journalWhere` */
export function listSales(sql: Reader, fits: Where, most: number): Promise<SaleRow[]> {
  return searching(sql, fits)<SaleRow>(
    `select ${COLUMNS}
     from (select * from sale ${fits.sql} ${NEWEST_FIRST} limit ${Math.trunc(most)}) as sale ${BESIDE} ${NEWEST_FIRST}`,
    fits.parameters,
  );
}

/** How many sales fit and what they come to; counted up to a limit, above which nobody wants to know exactly. */
export async function countSales(
  sql: Reader,
  fits: Where,
  most: number,
): Promise<{ count: number; total: number }> {
  const rows = await searching(sql, fits)<{ count: number; total: number }>(
    `select count(*)::integer as count,
       coalesce(sum(total) filter (where id not in (select sale_id from sale_void where state = 'done')), 0)::bigint
         as total
     from (select sale.id, sale.total from sale ${fits.sql} limit ${Math.trunc(most) + 1}) as found`,
    fits.parameters,
  );
  return one(rows);
}

const LINES = `select number, name, unit, quantity, unit_price as "unitPrice", regular, net, records, note, gift,
    serial, (select right(value.number, 4) from stored_value as value where value.id = stored_value_id) as card,
    case when return_sale is not null then 'From ' || (select receipt_number(till.number, origin.number)
      from sale as origin join till on till.id = origin.till_id
        where origin.id = return_sale) || ': ' || return_reason
    when quantity < 0 then coalesce(return_reason, 'Without receipt') end as "from"
  from sale_line where sale_id = sale.id order by position`;

const TAXES = `select tax_rate_id as "rateId", name, rate, base, tax from sale_tax where sale_id = sale.id
  order by position`;

const TENDERS = `select tender.name, tender.amount, tender.handed, tender.tip, payment_tender.entry,
    payment_tender.approval, coalesce(payment_tender.signature, '') as signature
  from tender left join payment_tender on payment_tender.id = payment_tender_id
  where sale_id = sale.id order by tender.position`;

const allOf = (rows: string) => `coalesce((select json_agg(one) from (${rows}) as one), '[]'::json)`;

/** A sale with all that its receipt says of it, and whether there is more to ask: receipts are made all day long. */
export async function findSale(sql: Reader, id: string): Promise<(SaleRow & SaleFigures) | undefined> {
  const [row] = await sql.query<SaleRow & SaleFigures>(
    `select ${COLUMNS}, ${allOf(LINES)} as "saleLines", ${allOf(TAXES)} as taxes, ${allOf(TENDERS)} as tenders,
            exists (select 1 from sale_line where sale_id = sale.id and promise_id is not null) as "hasPromises",
            exists (select 1 from account_item where sale_id = sale.id) as "hasAccounts",
            exists (select 1 from points_move where sale_id = sale.id) as "hasPoints",
            place.name as place, sale.currency, sale.tax_mode as "taxMode", sale.regular, sale.reductions,
            sale.donation, sale.cash_rounding as "cashRounding",
            (select name from fund where fund.id = sale.fund_id) as fund,
            sale.note, sale.exempt_reason as "exemptReason", sale.exempt_certificate as "exemptCertificate",
            (select max(printed_at) from print_job where sale_id = sale.id) as "printedAt"
     from sale ${BESIDE} join place on place.id = till.place_id where sale.id = $1`,
    [id],
  );
  return row;
}

export interface SaleFigures {
  saleLines: SaleLineRow[];
  taxes: TaxAmount[];
  tenders: SaleTenderRow[];
  hasPromises: boolean;
  hasAccounts: boolean;
  hasPoints: boolean;
  place: string;
  currency: string;
  taxMode: TaxMode;
  regular: number;
  reductions: number;
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
  card: string | null;
  from: string | null;
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
    "select 1 from print_job where sale_id = $1 and kind in ('receipt', 'copy') and state <> 'dropped' limit 1",
    [saleId],
  );
  return rows.length > 0;
}

/** Who the customer of a sale is now, and where they can be written to; nobody once they are forgotten. */
export async function receiptCustomer(sql: Reader, saleId: string): Promise<JournalSale['receiptCustomer']> {
  const [row] = await sql.query<NonNullable<JournalSale['receiptCustomer']>>(
    `select customer.id, customer.name, mail, phone, receipt_by as by
     from sale cross join person_now(sale.customer_id) as buyer join customer on customer.id = buyer
     where sale.id = $1`,
    [saleId],
  );
  return row ?? null;
}

/** The lines of a sale as its page shows them. */
export function pageLines(sql: Reader, saleId: string): Promise<SalePageLine[]> {
  return sql.query<SalePageLine>(
    `select line.position, line.item_id as "itemId", line.number, line.name, line.unit, line.quantity,
            line.unit_price as "unitPrice", line.regular, line.net, line.records, line.serial, line.note,
            coalesce(line.quantity - rest.quantity, 0)::bigint as "cameBack", line.return_sale as "returnSale",
            line.return_reason as reason, line.condition
     from sale_line as line left join lines_left(line.sale_id) as rest on rest.position = line.position
     where line.sale_id = $1 order by line.position`,
    [saleId],
  );
}

/** The ledger entries that a sale and its void posted. */
export async function entriesOf(sql: Reader, saleId: string): Promise<LedgerLine[]> {
  const entries = await sql.query<Omit<LedgerLine, 'words'>>(
    `select event.kind as event, account, subject, amount
     from ledger_event as event join ledger_entry on event_id = event.id
     where event.sale_id = $1 order by event.id, position`,
    [saleId],
  );
  const wordsOf = await wordsFor(sql, entries);
  return entries.map((entry) => ({ ...entry, words: wordsOf(entry) }));
}

/**
 * What came after a sale: returns from it, its void, corrections, papers; and the sales that it took goods back from.
 */
export async function afterwardsOf(sql: Reader, saleId: string): Promise<SaleAfterwards> {
  return one(
    await sql.query<SaleAfterwards>(
      `select
         coalesce((select json_agg(json_build_object('id', sale.id, 'number', receipt_number(till.number, sale.number),
             'at', sale.finished_at, 'by', staff.name, 'amount', back.net, 'voided',
             exists (select 1 from sale_void where sale_id = sale.id)) order by sale.finished_at)
           from (select line.sale_id, -sum(line.net + case origin.tax_mode when 'on-top'
                   then (select coalesce(sum((part.value->>'tax')::bigint), 0)
                     from jsonb_array_elements(line.taxes) as part)
                   else 0 end) as net
                 from sale_line as line join sale as origin on origin.id = line.sale_id where line.return_sale = $1
                 group by line.sale_id) as back
           join sale on sale.id = back.sale_id join till on till.id = sale.till_id
             join staff on staff.id = sale.staff_id), '[]'::json) as returns,
         coalesce((select json_agg(distinct jsonb_build_object('id', origin.id, 'number',
           receipt_number(till.number, origin.number)))
           from sale_line as line join sale as origin on origin.id = line.return_sale
             join till on till.id = origin.till_id
           where line.sale_id = $1), '[]'::json) as origins,
         (select json_build_object('state', state, 'reason', reason, 'at', coalesce(done_at, began_at), 'by',
           staff.name)
          from sale_void join staff on staff.id = staff_id where sale_id = $1) as void,
         coalesce((select json_agg(json_build_object('from', gone.name, 'to', target.name, 'amount', amount,
           'reason', reason, 'at', tender_correction.at, 'by', staff.name) order by tender_correction.at)
           from tender_correction join tender_type as gone on gone.id = from_type
           join tender_type as target on target.id = to_type join staff on staff.id = staff_id
           where sale_id = $1), '[]'::json) as corrections,
         coalesce((select json_agg(json_build_object('kind', kind, 'at', coalesce(printed_at, asked_at), 'till',
           till.number)
             order by print_job.id)
           from print_job join till on till.id = print_job.till_id
           where sale_id = $1 and kind in ('receipt', 'copy', 'gift-receipt', 'void-slip') and state <> 'dropped'),
           '[]'::json) as papers,
         coalesce((select json_agg(json_build_object('note', note, 'at', at, 'by', staff.name) order by sale_note.id)
           from sale_note join staff on staff.id = staff_id where sale_id = $1), '[]'::json) as notes`,
      [saleId],
    ),
  );
}

/** Writes something about a sale after it. */
export async function addSaleNote(
  sql: Writer,
  { saleId, note, staffId, at }: { saleId: string; note: string; staffId: number; at: Date },
): Promise<void> {
  await sql.query('insert into sale_note (sale_id, note, staff_id, at) values ($1, $2, $3, $4)', [
    saleId,
    note,
    staffId,
    at.toISOString(),
  ]);
}

/** Whether anything that a sale sold is still with the customer. */
export async function hasGoodsLeft(sql: Reader, saleId: string): Promise<boolean> {
  return one(
    await sql.query<{ left: boolean }>(
      'select coalesce((select max(quantity) from lines_left($1)), 0) > 0 as left',
      [saleId],
    ),
  ).left;
}
