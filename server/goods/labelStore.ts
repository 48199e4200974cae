import type { LabelPrint } from '../../contract/goods.ts';
import { USUAL_LAYOUT, type LabelLayout } from '../../core/goods/labelSheet.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import type { OfferedGoods } from '../../core/offers/offerUnits.ts';
import type { LabelPrice } from '../../core/offers/labelPrice.ts';
import { NOT_GOODS } from './recordStore.ts';

/** Items whose label shows another price than they have, or that of an offer which has ended by day $1. */
const CHANGED = `select item.id from item join item_label as label on label.item_id = item.id
  where active and kind = 'goods' and (item.price is distinct from label.price or label.offer_until < $1::date
    or (label.offer_id is not null and not exists (
      select 1 from offer where offer.id = label.offer_id and state = 'live')))`;
/** Items that are on no label yet. */
const NEVER = `select item.id from item where active and kind = 'goods' and item.id not in (${NOT_GOODS})
  and not exists (select 1 from item_label where item_id = item.id)`;

/** How many labels are due, and how the shop's sheets are. */
export async function labelFacts(
  sql: Reader,
  day: string,
): Promise<{ changed: number; never: number; layout: LabelLayout }> {
  const { layout, ...counts } = one(
    await sql.query<{ changed: number; never: number; layout: LabelLayout | null }>(
      `select (select count(*) from (${CHANGED}) as due)::integer as changed,
         (select count(*) from (${NEVER}) as due)::integer as never, label_layout as layout from shop`,
      [day],
    ),
  );
  return { ...counts, layout: layout ?? USUAL_LAYOUT };
}

/** How many labels show another price than their items have. */
export async function labelsDue(sql: Reader, day: string): Promise<number> {
  return one(
    await sql.query<{ changed: number }>(`select count(*)::integer as changed from (${CHANGED}) as due`, [
      day,
    ]),
  ).changed;
}

/** Items whose labels are due, by name. */
export async function dueItems(
  sql: Reader,
  which: 'changed' | 'never',
  { day, most }: { day: string; most: number },
): Promise<number[]> {
  const rows = await sql.query<{ id: number }>(
    `select item.id from item where $1::date is not null and id in (${which === 'changed' ? CHANGED : NEVER})
     order by name, number limit $2`,
    [day, most],
  );
  return rows.map(({ id }) => id);
}

const PRINTS_SHOWN = 20;

/** What was printed, newest first. */
export function lastPrints(sql: Reader): Promise<LabelPrint[]> {
  return sql.query<LabelPrint>(
    `select print.id, at, staff.name as who, sum(copies)::integer as labels, count(*)::integer as items
     from label_print as print join staff on staff.id = staff_id join label_print_line as line on print_id = print.id
     group by print.id, staff.name order by print.id desc limit ${PRINTS_SHOWN}`,
  );
}

/** Labels of an item that are wanted, with what an offer makes of its price. */
export interface WantedLabel {
  id: number;
  copies: number;
  offer?: LabelPrice | null;
}

/**
 * Notes what is printed, with the prices of now, and keeps the layout for the next time. Families and bundles have no
 * label.
 * @returns its number, and how many labels those are
 */
export async function addPrint(
  sql: Writer,
  { layout, first, items }: { layout: LabelLayout; first: number; items: readonly WantedLabel[] },
  { staffId, at }: { staffId: number; at: Date },
): Promise<{ id: number; labels: number }> {
  const [kept, list] = [JSON.stringify(layout), JSON.stringify(items)];
  const { id } = one(
    await sql.query<{ id: number }>(
      'insert into label_print (at, staff_id, layout, first_place) values ($1, $2, $3, $4) returning id',
      [at.toISOString(), staffId, kept, first],
    ),
  );
  const lines = await sql.query<{ copies: number }>(
    `insert into label_print_line (print_id, position, item_id, copies, number, name, unit, price, code,
      offer_price, offer_until)
     select $1, row_number() over (order by wanted.nth), item.id, wanted.copies, number, name, unit, price,
       coalesce((select code from item_code where item_id = item.id order by length(code) desc, code limit 1), number),
       (entry->'offer'->>'price')::bigint, (entry->'offer'->>'until')::date
     from jsonb_array_elements($2::jsonb) with ordinality as given (entry, nth)
     cross join lateral (select (entry->>'id')::integer as id, (entry->>'copies')::smallint as copies, nth) as wanted
     join item on item.id = wanted.id and item.kind = 'goods' returning copies`,
    [id, list],
  );
  await sql.query(
    `insert into item_label (item_id, price, print_id, offer_id, offer_until)
     select distinct on (item_id) item_id, price, print_id, (entry->'offer'->>'offerId')::integer, offer_until
     from label_print_line join jsonb_array_elements($2::jsonb) as entry on (entry->>'id')::integer = item_id
     where print_id = $1 order by item_id
     on conflict (item_id) do update set price = excluded.price, print_id = excluded.print_id,
       offer_id = excluded.offer_id, offer_until = excluded.offer_until`,
    [id, list],
  );
  await sql.query('update shop set label_layout = $1', [kept]);
  return { id, labels: lines.reduce((all, { copies }) => all + copies, 0) };
}

/** A label as it is printed. */
export interface LabelLine {
  copies: number;
  number: string;
  name: string;
  unit: string;
  price: number | null;
  /** What an offer makes of it, and until which day. */
  offerPrice: number | null;
  offerUntil: string | null;
  code: string;
}

export async function findPrint(
  sql: Reader,
  id: number,
): Promise<{ layout: LabelLayout; first: number; lines: LabelLine[] } | undefined> {
  const [row] = await sql.query<{ layout: LabelLayout; first: number; lines: LabelLine[] }>(
    `select layout, first_place as first,
       (select json_agg(json_build_object('copies', copies, 'number', number, 'name', name, 'unit', unit,
          'price', price, 'code', code,
          'offerPrice', offer_price, 'offerUntil', offer_until) order by position) from label_print_line
            where print_id = print.id) as lines
     from label_print as print where id = $1`,
    [id],
  );
  return row;
}

/** What says whether an offer means an item, and what it costs. */
export function pricedGoods(
  sql: Reader,
  ids: readonly number[],
): Promise<(OfferedGoods & { price: number })[]> {
  return sql.query(
    `select item.id as "itemId", family_id as "familyId", category.name as category, price
     from item join category on category.id = category_id where item.id = any ($1::integer[]) and price > 0`,
    [ids],
  );
}
