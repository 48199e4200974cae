import type { JournalSearch } from '../../core/journal/journalSearch.ts';
import type { JournalChoices } from '../../contract/journal.ts';
import { spellings } from '../../core/goods/codes.ts';
import { searchedWords } from '../../core/people/customer.ts';
import { wordsOf } from '../../core/words.ts';
import { asking, type Ask } from '../db/asked.ts';
import type { Parameter, Reader } from '../db/database.ts';
import { beginnings, literally } from '../db/words.ts';
import { itemsMeant } from '../goods/meantStore.ts';

/** What the journal shows: what was typed, and what was chosen. */
export interface JournalFilter extends JournalSearch {
  from: string | null;
  to: string | null;
  tillId: number | null;
  staffId: number | null;
  typeId: number | null;
  customerId: number | null;
  kind: 'sale' | 'return' | 'exchange' | 'void' | null;
}

/** A condition with its parameters. */
export interface Where {
  sql: string;
  parameters: Parameter[];
  /** It says itself which sales are meant, or all are: how they are found does not depend on what was typed. */
  plain: boolean;
}

const MOST_FOUND = 300;
/** So many items are looked at for their names. */
const MOST_LOOKED_AT = 5000;

/** How much is gathered of what words fit. */
const MOST = {
  /** Above so many items, most baskets hold one: the newest are looked through instead of all their lines. */
  items: 20,
  /** So many sales are gathered once, for the page and for the count. */
  sales: 5000,
};

/**
 * The condition for a filter. Words are looked up first, among goods, serial numbers and customers, so that the
 * million lines are reached by their indexes.
 */
export async function journalWhere(sql: Reader, filter: JournalFilter, most = MOST): Promise<Where> {
  const { given, ask } = asking();
  const conditions: string[] = [];
  const { receipt, day, amount, lastFour, words, from, to, tillId, staffId, typeId, customerId, kind } =
    filter;
  if (receipt) {
    conditions.push(
      `sale.till_id in (select id from till where number = ${ask(receipt.till)})`,
      `sale.number = ${ask(receipt.count)}`,
    );
  }
  if (day) conditions.push(`sale.business_date = ${ask(day)}`);
  if (from) conditions.push(`sale.business_date >= ${ask(from)}`);
  if (to) conditions.push(`sale.business_date <= ${ask(to)}`);
  if (tillId !== null) conditions.push(`sale.till_id = ${ask(tillId)}`);
  if (staffId !== null) conditions.push(`sale.staff_id = ${ask(staffId)}`);
  if (customerId !== null) conditions.push(`sale.customer_id = any (one_person(${ask(customerId)}))`);
  if (kind === 'void') conditions.push(`sale.id in (select sale_id from sale_void)`);
  else if (kind) conditions.push(`sale.kind = ${ask(kind)}`);
  if (typeId !== null) {
    conditions.push(
      `exists (select 1 from tender where tender.sale_id = sale.id and tender.type_id = ${ask(typeId)})`,
    );
  }
  if (amount) {
    const [least, most] = [ask(amount.least), ask(amount.most)];
    conditions.push(`(sale.total between ${least} and ${most} or sale.total between -${most} and -${least})`);
  }
  if (lastFour) conditions.push(`sale.id in (${byLastFour(ask(lastFour))})`);
  const chosen = conditions.length > 0 && !receipt;
  const gathered = words.length > 0 ? await byWords(sql, words, ask, most) : null;
  if (gathered) conditions.push(gathered.sql);
  return {
    sql: conditions.length > 0 ? `where ${conditions.join(' and ')}` : '',
    parameters: given,
    plain: !chosen && gathered?.plain !== false,
  };
}

/** What follows a sale on the next page. */
export function whereAfter(
  { sql, parameters, plain }: Where,
  { at, number, id }: { at: string; number: number; id: string },
): Where {
  const { given, ask } = asking(...parameters);
  const [time, count, sale] = [at, number, id].map(ask);
  const after = `(sale.finished_at, sale.number, sale.id) < (${time}::timestamptz, ${count}::integer, ${sale}::uuid)`;
  return { sql: `${sql ? `${sql} and` : 'where'} ${after}`, parameters: given, plain };
}

const byLastFour = (parameter: string): string =>
  `select basket_id from payment_tender where last_four = ${parameter}
   union select tender.sale_id from tender join stored_value on stored_value.id = tender.stored_value_id
   where right(stored_value.number, 4) = ${parameter}`;

/** Goods and customers that words name. */
interface Named {
  items: number[];
  customers: number[];
}

async function namedBy(sql: Reader, words: readonly string[]): Promise<Named> {
  const text = words.join(' ');
  return { items: await itemsNamed(sql, text), customers: await customersNamed(sql, text) };
}

/** Items that a text means as a code or a number, or whose name has words that begin as it says. */
async function itemsNamed(sql: Reader, text: string): Promise<number[]> {
  const meant = await sql.query<{ id: number }>(itemsMeant('$1'), [spellings(text)]);
  const wanted = wordsOf(text);
  if (wanted.length === 0) return meant.map(({ id }) => id);
  const called = await sql.query<{ id: number; name: string; number: string }>(
    `with named as materialized (select id, name, number from item where word_set(words) @@ $1::tsquery)
     select * from named limit ${MOST_LOOKED_AT}`,
    [beginnings(wanted)],
  );
  // The words of an item are its category, tags and codes, too: figures that are looked for begin many a code.
  const named = called.filter(({ name, number }) => {
    const has = wordsOf(`${name} ${number}`);
    return wanted.every((word) => has.some((one) => one.startsWith(word)));
  });
  return [...new Set([...meant, ...named.slice(0, MOST_FOUND)].map(({ id }) => id))];
}

/** Customers who have a text as a card, or are found by it, with whatever records they had before. */
async function customersNamed(sql: Reader, text: string): Promise<number[]> {
  const words = searchedWords(text);
  const rows = await sql.query<{ id: number }>(
    `with named as materialized (select id from customer where word_set(words) @@ $2::tsquery),
     found as (
       select customer_id as id from customer_card where upper(code) = upper($1)
       union (select id from named limit ${MOST_FOUND})),
     person as (select coalesce(merged_into, customer.id) as id from found join customer using (id))
     select id from person union select customer.id from person join customer on merged_into = person.id`,
    [text, beginnings(words)],
  );
  return rows.map(({ id }) => id);
}

/** What finds sales by words, but for the goods in them. */
function besideGoods(words: readonly string[], customers: readonly number[], ask: Ask): string[] {
  const text = words.join(' ');
  // Words of notes, each by its beginning: quoted, so that nothing typed is an operator.
  const beginnings = words.map((word) => `'${word.replaceAll(/['\\]/g, ' ')}':*`).join(' & ');
  const query = `to_tsquery('simple', ${ask(beginnings)})`;
  return [
    `select id from sale where customer_id = any (${ask(customers)}::integer[])`,
    `select sale_id from sale_line where upper(serial) = ${ask(text.toUpperCase())}`,
    `select sale_id from tender where reference <> '' and reference = ${ask(text)}`,
    `select sale_id from sale_note where to_tsvector('simple', note) @@ ${query}`,
    `select id from sale where note <> '' and to_tsvector('simple', note) @@ ${query}`,
    `select sale_id from sale_line where note <> '' and to_tsvector('simple', note) @@ ${query}`,
    `select sale_id from outbox where sale_id is not null
      and lower(recipient) like ${ask(`${literally(text.toLowerCase())}%`)}`,
    ...(/^\d{4}$/.test(text) ? [`(${byLastFour(ask(text))})`] : []),
  ];
}

async function byWords(
  sql: Reader,
  words: readonly string[],
  ask: Ask,
  most: typeof MOST,
): Promise<Pick<Where, 'sql' | 'plain'>> {
  const { items, customers } = await namedBy(sql, words);
  if (items.length > most.items) {
    const sets = besideGoods(words, customers, ask);
    return {
      sql: `(exists (select 1 from sale_line where sale_line.sale_id = sale.id
          and item_id = any (${ask(items)}::integer[]))
        or sale.id in (${sets.join(' union ')}))`,
      plain: false,
    };
  }
  const sets = (place: Ask) => [
    ...besideGoods(words, customers, place),
    `select sale_id from sale_line where item_id = any (${place(items)}::integer[])`,
  ];
  const own = asking();
  const some = sets(own.ask).join(' union all ');
  const found = await sql.query<{ id: string }>(
    `select id from (${some}) as fits limit ${most.sales + 1}`,
    own.given,
  );
  if (found.length > most.sales) return { sql: `sale.id in (${sets(ask).join(' union ')})`, plain: false };
  return { sql: `sale.id = any (${ask([...new Set(found.map(({ id }) => id))])}::uuid[])`, plain: true };
}

/** Tills and people to narrow the journal to; whoever left is still among them. */
export async function journalChoices(sql: Reader): Promise<JournalChoices> {
  return {
    tills: await sql.query("select id, 'Till ' || number as name from till order by number"),
    staff: await sql.query('select id, name from staff order by name'),
  };
}
