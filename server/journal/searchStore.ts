import type { JournalSearch } from '../../core/journal/journalSearch.ts';
import type { JournalChoices } from '../../contract/journal.ts';
import { one, type Parameter, type Reader } from '../db/database.ts';

/** What the journal shows: what was typed, and what was chosen. */
export interface JournalFilter extends JournalSearch {
  from: string | null;
  to: string | null;
  tillId: number | null;
  staffId: number | null;
  typeId: number | null;
  customerId: number | null;
  kind: 'sale' | 'return' | 'exchange' | 'void' | null;
  /** The last sale of the page before: its time and id. */
  after: { at: string; number: number; id: string } | null;
}

/** A condition with its parameters. */
export interface Where {
  sql: string;
  parameters: Parameter[];
}

/**
 * Above so many items that fit, most baskets hold one: the newest are looked through instead of all lines being
 * gathered.
 */
const MANY_ITEMS = 20;
const MOST_FOUND = 300;

/**
 * The condition for a filter. Words are looked up first, among goods, serial numbers and customers, so that the
 * million lines are reached by their indexes.
 */
export async function journalWhere(sql: Reader, filter: JournalFilter): Promise<Where> {
  const parameters: Parameter[] = [];
  const conditions: string[] = [];
  const put = (value: Parameter): string => {
    parameters.push(value);
    return `$${parameters.length}`;
  };
  const {
    receipt,
    day,
    amount,
    lastFour,
    words,
    from,
    to,
    tillId,
    staffId,
    typeId,
    customerId,
    kind,
    after,
  } = filter;
  if (receipt) {
    conditions.push(`till.number = ${put(receipt.till)}`, `sale.number = ${put(receipt.count)}`);
  }
  if (day) conditions.push(`sale.business_date = ${put(day)}`);
  if (from) conditions.push(`sale.business_date >= ${put(from)}`);
  if (to) conditions.push(`sale.business_date <= ${put(to)}`);
  if (tillId !== null) conditions.push(`sale.till_id = ${put(tillId)}`);
  if (staffId !== null) conditions.push(`sale.staff_id = ${put(staffId)}`);
  if (customerId !== null) conditions.push(`sale.customer_id = ${put(customerId)}`);
  if (kind === 'void') conditions.push(`sale.id in (select sale_id from sale_void)`);
  else if (kind) conditions.push(`sale.kind = ${put(kind)}`);
  if (typeId !== null) {
    conditions.push(
      `exists (select 1 from tender where tender.sale_id = sale.id and tender.type_id = ${put(typeId)})`,
    );
  }
  if (amount) {
    const [least, most] = [put(amount.least), put(amount.most)];
    conditions.push(`(sale.total between ${least} and ${most} or sale.total between -${most} and -${least})`);
  }
  if (lastFour) conditions.push(`sale.id in (${byLastFour(put(lastFour))})`);
  if (words.length > 0) conditions.push(await byWords(sql, words, put));
  if (after) {
    conditions.push(
      `(sale.finished_at, sale.number, sale.id) < (${put(after.at)}::timestamptz, ${put(after.number)}::integer,
        ${put(after.id)}::uuid)`,
    );
  }
  return { sql: conditions.length > 0 ? `where ${conditions.join(' and ')}` : '', parameters };
}

const byLastFour = (parameter: string): string =>
  `select basket_id from payment_tender where last_four = ${parameter}
   union select tender.sale_id from tender join stored_value on stored_value.id = tender.stored_value_id
   where right(stored_value.number, 4) = ${parameter}`;

/** A text for `like`: what is special there stands for itself. */
const literally = (text: string): string => text.replaceAll(/[\\%_]/g, '\\$&');

async function byWords(
  sql: Reader,
  words: readonly string[],
  put: (value: Parameter) => string,
): Promise<string> {
  const text = words.join(' ');
  const found = one(
    await sql.query<{ items: number[]; customers: number[] }>(
      `select coalesce((select array_agg(id) from (
           select id from item where number = upper($1)
           union select item_id from item_code where code = $1
           union (select id from item where name ilike all ($2::text[]) limit ${MOST_FOUND})) as fits), '{}') as items,
         coalesce((select array_agg(id) from (
           select customer_id as id from customer_card where code = upper($1)
           union (select id from customer where words ilike all ($3::text[]) limit ${MOST_FOUND})) as fits),
           '{}') as customers`,
      [text, words.map((word) => `%${literally(word)}%`), words.map((word) => `% ${literally(word)}%`)],
    ),
  );
  const items = put(found.items);
  const sets = [
    `select id from sale where customer_id = any (${put(found.customers)}::integer[])`,
    `select sale_id from sale_line where upper(serial) = ${put(text.toUpperCase())}`,
    `select sale_id from tender where reference <> '' and reference = ${put(text)}`,
  ];
  // Words of notes, each by its beginning: quoted, so that nothing typed is an operator.
  const beginnings = words.map((word) => `'${word.replaceAll(/['\\]/g, ' ')}':*`).join(' & ');
  const query = `to_tsquery('simple', ${put(beginnings)})`;
  sets.push(
    `select sale_id from sale_note where to_tsvector('simple', note) @@ ${query}`,
    `select id from sale where note <> '' and to_tsvector('simple', note) @@ ${query}`,
    `select sale_id from sale_line where note <> '' and to_tsvector('simple', note) @@ ${query}`,
    `select sale_id from outbox where sale_id is not null
      and lower(recipient) like ${put(`${literally(text.toLowerCase())}%`)}`,
  );
  if (/^\d{4}$/.test(text)) sets.push(byLastFour(put(text)));
  if (found.items.length <= MANY_ITEMS) {
    sets.push(`select sale_id from sale_line where item_id = any (${items}::integer[])`);
    return `sale.id in (${sets.join(' union ')})`;
  }
  return `(exists (select 1 from sale_line where sale_line.sale_id = sale.id and item_id = any (${items}::integer[]))
    or sale.id in (${sets.join(' union ')}))`;
}

/** Tills and people to narrow the journal to; whoever left is still among them. */
export async function journalChoices(sql: Reader): Promise<JournalChoices> {
  return {
    tills: await sql.query("select id, 'Till ' || number as name from till order by number"),
    staff: await sql.query('select id, name from staff order by name'),
  };
}
