import type { CountRow, EntryView, WantedCount } from '../../contract/counts.ts';
import { spellings } from '../../core/goods/codes.ts';
import { asking, countOf, typedNumber, type Ask } from '../db/asked.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { says } from '../db/words.ts';
import { itemsMeant } from '../goods/meantStore.ts';

/** Goods that are to be counted: of named categories or suppliers, or all of them. */
const IN_SCOPE = `item.kind = 'goods' and item.stocked and (counting.everything
  or item.category_id = any (counting.categories)
  or exists (select 1 from item_supplier where item_id = item.id and rank = 1
    and supplier_id = any (counting.suppliers)))
  and (item.active or exists (select 1 from stock_level
    where item_id = item.id and place_id = counting.place_id and quantity <> 0))`;
const NAMED = `(counting.everything or counting.categories <> '{}' or counting.suppliers <> '{}')`;

const ROW = `counting.id, counting.number, place.name as place, counting.words, counting.state, counting.blind,
  counting.begun_at as "begunAt", staff.name as "begunBy", counting.ended_at as "endedAt",
  (select count(distinct item_id)::integer from count_entry
    where count_id = counting.id and withdrawn_at is null) as counted,
  case when ${NAMED} and counting.state = 'open' then (select count(*)::integer from item
    where ${IN_SCOPE}) end as "toCount",
  (select sum(cost)::bigint from count_difference where count_id = counting.id) as cost`;
const FROM = `from stock_count as counting join place on place.id = counting.place_id
  join staff on staff.id = counting.begun_by`;

/** Which counts have words of the place, said with them or of who began them, or the number. */
function countsMeant(find: string, ask: Ask): string {
  const number = typedNumber(find);
  const words = says("concat_ws(' ', place.name, counting.words, staff.name)", find, ask);
  return number === undefined ? words : `(${words} or counting.number = ${ask(number)})`;
}

/** Counts that fit, those that go on first, the newest first. */
export function listCounts(
  sql: Reader,
  find: string,
  { most, from }: { most: number; from: number },
): Promise<CountRow[]> {
  const { given, ask } = asking();
  return sql.query<CountRow>(
    `select ${ROW} ${FROM} where ${countsMeant(find, ask)}
     order by counting.state = 'open' desc, counting.id desc limit ${ask(most)} offset ${ask(from)}`,
    given,
  );
}

/** How many counts fit. */
export const countCounts = (sql: Reader, find: string): Promise<number> =>
  countOf(sql, FROM, (ask) => countsMeant(find, ask));

export async function findCount(
  sql: Reader,
  id: number,
): Promise<(CountRow & { placeId: number }) | undefined> {
  const [row] = await sql.query<CountRow & { placeId: number }>(
    `select ${ROW}, counting.place_id as "placeId" ${FROM} where counting.id = $1`,
    [id],
  );
  return row;
}

export interface HeldCount {
  placeId: number;
  state: CountRow['state'];
  blind: boolean;
}

/** A count to which something is added: it cannot end meanwhile, and others add to it at the same time. */
export async function shareCount(sql: Writer, id: number): Promise<HeldCount | undefined> {
  const [row] = await sql.query<HeldCount>(
    'select place_id as "placeId", state, blind from stock_count where id = $1 for share',
    [id],
  );
  return row;
}

/** A count that ends, for oneself. */
export async function holdCount(sql: Writer, id: number): Promise<HeldCount | undefined> {
  const [row] = await sql.query<HeldCount>(
    'select place_id as "placeId", state, blind from stock_count where id = $1 for update',
    [id],
  );
  return row;
}

export async function addCount(
  sql: Writer,
  wanted: WantedCount,
  { staffId, at }: { staffId: number; at: Date },
): Promise<number> {
  return one(
    await sql.query<{ id: number }>(
      `insert into stock_count (number, place_id, words, categories, suppliers, everything, blind, begun_at, begun_by)
       values (nextval('stock_count_number'), $1, $2, $3, $4, $5, $6, $7, $8) returning id`,
      [
        wanted.placeId,
        wanted.words,
        wanted.categories,
        wanted.suppliers,
        wanted.everything,
        wanted.blind,
        at.toISOString(),
        staffId,
      ],
    ),
  ).id;
}

export interface CountableItem {
  id: number;
  name: string;
  decimals: number;
  serials: boolean;
}

const COUNTABLE = `select id, name, decimals, serials from item where kind = 'goods' and stocked`;

export async function countableItem(sql: Reader, id: number): Promise<CountableItem | undefined> {
  const [row] = await sql.query<CountableItem>(`${COUNTABLE} and id = $1`, [id]);
  return row;
}

/** An item with what reads a label of it, and the unit that was meant. */
export interface MeantItem extends CountableItem {
  price: number | null;
  serial: string | null;
}

/** What a code, a number or a serial number means. */
export async function itemMeant(sql: Reader, code: string): Promise<MeantItem | undefined> {
  const [row] = await sql.query<MeantItem>(
    `select id, name, decimals, serials, price, null as serial, place
     from (${itemsMeant('$2')}) as meant join item using (id) where kind = 'goods' and stocked
     union all
     select id, name, decimals, serials, price, serial.serial, null from serial join item on item.id = item_id
       where upper(serial.serial) = upper($1)
     order by place nulls last limit 1`,
    [code, spellings(code)],
  );
  return row;
}

/**
 * Adds an entry with what the books say at this moment: who sells the item there just now is waited for.
 * @returns its number; nothing where the unit with its serial number was counted already
 */
export async function addEntry(
  sql: Writer,
  entry: { countId: number; itemId: number; placeId: number; quantity: number; serial: string | null },
  { staffId, at }: { staffId: number; at: Date },
): Promise<number | undefined> {
  await sql.query(
    'insert into stock_level (item_id, place_id, quantity) values ($1, $2, 0) on conflict do nothing',
    [entry.itemId, entry.placeId],
  );
  await sql.query('select 1 from stock_level where item_id = $1 and place_id = $2 for share', [
    entry.itemId,
    entry.placeId,
  ]);
  const [row] = await sql.query<{ id: number }>(
    `insert into count_entry (count_id, item_id, quantity, serial, level, after_move, at, staff_id)
     select $1, $2, $3, $4, quantity,
       coalesce((select max(id) from stock_move where item_id = $2 and place_id = $5), 0), $6, $7
     from stock_level where item_id = $2 and place_id = $5
     on conflict do nothing returning id`,
    [entry.countId, entry.itemId, entry.quantity, entry.serial, entry.placeId, at.toISOString(), staffId],
  );
  return row?.id;
}

/** Entries that stand, newest first; or one of them. */
export function standingEntries(
  sql: Reader,
  countId: number,
  which: { entryId?: number },
  most: number,
): Promise<EntryView[]> {
  return sql.query<EntryView>(
    `select entry.id, entry.item_id as "itemId", item.number, item.name, unit, decimals, serials, entry.quantity,
      entry.serial, entry.at, staff.name as who,
       (select sum(quantity)::bigint from count_entry as all_of
        where all_of.count_id = entry.count_id and all_of.item_id = entry.item_id and withdrawn_at is null) as counted,
       case when not counting.blind then entry.level end as expected
     from count_entry as entry join stock_count as counting on counting.id = count_id
       join item on item.id = entry.item_id
     join staff on staff.id = entry.staff_id
     where count_id = $1 and withdrawn_at is null and ($2::bigint is null or entry.id = $2)
     order by entry.id desc limit $3`,
    [countId, which.entryId ?? null, most],
  );
}

/** Entries count no more: one, or those of some items. @returns how many */
export async function withdraw(
  sql: Writer,
  countId: number,
  which: { entryId: number } | { items: readonly number[] },
  at: Date,
): Promise<number> {
  const rows = await sql.query(
    `update count_entry set withdrawn_at = $2 where count_id = $1 and withdrawn_at is null
       and (id = $3 or item_id = any ($4::integer[])) returning id`,
    [
      countId,
      at.toISOString(),
      'entryId' in which ? which.entryId : null,
      'items' in which ? which.items : [],
    ],
  );
  return rows.length;
}

export interface CountedFacts {
  itemId: number;
  number: string;
  name: string;
  unit: string;
  serials: boolean;
  counted: number;
  level: number;
  came: number;
  left: number;
  who: string;
}

/** What was counted of each item, what the books said at the last entry, and what moved since the first. */
export function countedFacts(sql: Reader, countId: number): Promise<CountedFacts[]> {
  return sql.query<CountedFacts>(
    `with mine as (
       select item_id, sum(quantity)::bigint as counted, min(after_move) as first, max(after_move) as last,
              (array_agg(level order by entry.id desc))[1] as level, string_agg(distinct staff.name, ', ') as who
       from count_entry as entry join staff on staff.id = staff_id where count_id = $1 and withdrawn_at is null
         group by item_id
     )
     select item_id as "itemId", number, name, unit, serials, counted, level, coalesce(came, 0)::bigint as came,
            coalesce("left", 0)::bigint as "left", who
     from mine join item on item.id = item_id
     left join lateral (
       select sum(quantity) filter (where quantity > 0) as came, -sum(quantity) filter (where quantity < 0) as "left"
       from stock_move as move
       where move.item_id = mine.item_id and move.place_id = (select place_id from stock_count where id = $1)
         and move.id > mine.first and move.id <= mine.last and settles is null) as meanwhile on true
     order by name, item_id`,
    [countId],
  );
}

/**
 * Goods that are to be counted and were not; where none were named, those of which the books say something lies
 * there.
 */
export function notCounted(
  sql: Reader,
  countId: number,
): Promise<{ itemId: number; number: string; name: string; unit: string; expected: number }[]> {
  return sql.query(
    `select item.id as "itemId", item.number, item.name, unit, level.quantity as expected
     from stock_count as counting join item on ${IN_SCOPE}
     join stock_level as level on level.item_id = item.id and level.place_id = counting.place_id and level.quantity <> 0
     where counting.id = $1 and ${NAMED} and item.id not in (
       select item_id from count_entry where count_id = $1 and withdrawn_at is null)
     order by item.name, item.id`,
    [countId],
  );
}

/** Units that the books say lie there and nobody counted, and those that were counted and the books do not know. */
export async function serialsOf(
  sql: Reader,
  countId: number,
  itemId: number,
  placeId: number,
): Promise<{ missing: string[]; extra: string[] }> {
  return one(
    await sql.query<{ missing: string[]; extra: string[] }>(
      `with counted as (
         select serial from count_entry where count_id = $1 and item_id = $2 and withdrawn_at is null
           and serial is not null
       ), known as (select serial, sale_id is null and place_id = $3 as here from serial where item_id = $2)
       select coalesce((select json_agg(serial order by serial) from known
                where here and serial not in (select serial from counted)), '[]'::json) as missing,
              coalesce((select json_agg(serial order by serial) from counted
                where serial not in (select serial from known)), '[]'::json) as extra`,
      [countId, itemId, placeId],
    ),
  );
}

/** Where the books say a unit is, in words, if that is not here; nothing where it is here or nobody knows it. */
export async function unitElsewhere(
  sql: Reader,
  itemId: number,
  serial: string,
  placeId: number,
): Promise<string | null> {
  const [unit] = await sql.query<{ sold: boolean; place: string; here: boolean }>(
    `select sale_id is not null as sold, place.name as place, place_id = $3 as here
     from serial join place on place.id = place_id where item_id = $1 and serial = $2`,
    [itemId, serial, placeId],
  );
  if (!unit || (unit.here && !unit.sold)) return null;
  return unit.sold
    ? 'was sold: it comes back with its receipt.'
    : `is at ${unit.place} in the books: take it in by a transfer.`;
}

export const categories = (sql: Reader): Promise<{ id: number; name: string }[]> =>
  sql.query('select id, name from category order by name');

export async function endCount(
  sql: Writer,
  id: number,
  state: 'booked' | 'cancelled',
  { staffId, at }: { staffId: number; at: Date },
  event: number | null,
): Promise<void> {
  await sql.query(
    'update stock_count set state = $2, ended_at = $3, ended_by = $4, event_id = $5 where id = $1',
    [id, state, at.toISOString(), staffId, event],
  );
}

/** Keeps what a count found, with what it was worth as it was posted. */
export async function keepDifferences(
  sql: Writer,
  id: number,
  event: number,
  found: readonly { itemId: number; counted: number; expected: number }[],
): Promise<void> {
  await sql.query(
    `insert into count_difference (count_id, item_id, counted, expected, cost)
     select $1, "itemId", counted, expected,
       coalesce((select sum(cost) from stock_move where event_id = $3 and item_id = "itemId" and settles is null), 0)
     from jsonb_to_recordset($2) as one ("itemId" integer, counted bigint, expected bigint)`,
    [id, JSON.stringify(found), event],
  );
}

export function keptDifferences(
  sql: Reader,
  id: number,
): Promise<
  {
    itemId: number;
    number: string;
    name: string;
    unit: string;
    counted: number;
    expected: number;
    cost: number;
  }[]
> {
  return sql.query(
    `select item.id as "itemId", number, name, unit, counted, expected, count_difference.cost
     from count_difference join item on item.id = item_id where count_id = $1
       order by abs(count_difference.cost) desc, name`,
    [id],
  );
}
