import type { ItemPage, StockMoveView } from '../../contract/goods.ts';
import type { Reader } from '../db/database.ts';

/** What stands on the page of an item besides its record. */
export type BesideRecord = Pick<
  ItemPage,
  'family' | 'contains' | 'axes' | 'pictures' | 'stock' | 'prices' | 'toCome' | 'addedAt'
>;

/** @param placeId the place of the till, which comes first */
export async function besideRecord(
  sql: Reader,
  id: number,
  placeId: number,
): Promise<BesideRecord | undefined> {
  const [row] = await sql.query<{ beside: BesideRecord }>(
    `select json_build_object(
       'axes', item.axes,
       'pictures', coalesce((select json_agg(picture_id order by position) from item_picture
         where item_id = item.id), '[]'::json), 'addedAt', item.added_at,
       'family', case when item.family_id is not null then (
          select json_build_object('id', family.id, 'name', family.name, 'variant', item.variant)
          from item as family where family.id = item.family_id) end,
       'contains', coalesce(case item.kind
          when 'family' then (select json_agg(json_build_object('id', one.id, 'number', one.number, 'name', one.name,
             'variant', one.variant, 'quantity', null, 'unit', one.unit, 'decimals', one.decimals, 'price', one.price,
             'active', one.active) order by one.id) from item as one where one.family_id = item.id)
          when 'bundle' then (select json_agg(json_build_object('id', one.id, 'number', one.number, 'name', one.name,
             'variant', one.variant, 'quantity', part.quantity, 'unit', one.unit, 'decimals', one.decimals,
             'price', one.price, 'active', one.active) order by part.position)
             from bundle_part as part join item as one on one.id = part.item_id where part.bundle_id = item.id)
          end, '[]'::json),
       'stock', case when item.stocked then (
          select json_agg(json_build_object('placeId', place.id, 'place', place.name, 'here', place.id = $2,
            'onHand', coalesce(level.quantity, 0), 'setAside', coalesce(level.set_aside, 0))
            order by place.id <> $2, place.name)
          from place left join stock_level as level on level.place_id = place.id and level.item_id = item.id)
          else '[]'::json end,
       'prices', coalesce((select json_agg(json_build_object('price', past.price, 'changedAt', past.changed_at)
          order by past.changed_at desc)
          from (select price, changed_at from item_price where item_id = item.id
            order by changed_at desc limit 12) as past), '[]'::json),
       'toCome', coalesce((select json_agg(json_build_object('from', from_day, 'price', coming.price,
          'by', coalesce(staff.name, '')) order by from_day)
          from item_price_to_come as coming left join staff on staff.id = staff_id
            where item_id = item.id), '[]'::json)) as beside
     from item where item.id = $1`,
    [id, placeId],
  );
  return row?.beside;
}

const MOVES_SHOWN = 60;

/** How stock of an item moved, newest first. */
export function movesOf(sql: Reader, id: number): Promise<StockMoveView[]> {
  return sql.query<StockMoveView>(
    `select move.id, move.at, place.name as place, move.quantity, move.reason, move.words,
       coalesce(staff.name, seller.name, '') as by, move.promise_id as "promiseId",
       case when sale.id is not null then json_build_object('id', sale.id,
         'number', receipt_number(till.number, sale.number)) end as sale
     from stock_move as move join place on place.id = move.place_id
     left join staff on staff.id = move.staff_id
     left join sale on sale.id = move.sale_id left join till on till.id = sale.till_id
     left join staff as seller on seller.id = sale.staff_id
     where move.item_id = $1 order by move.at desc, move.id desc limit ${MOVES_SHOWN}`,
    [id],
  );
}

/** What was sold of an item by month, less what came back, from the month of a day on. */
export function monthsSold(sql: Reader, id: number, since: string): Promise<ItemPage['months']> {
  return sql.query(
    `select to_char(sale.business_date, 'YYYY-MM') as month, sum(line.quantity)::bigint as quantity,
       sum(line.net - case when sale.tax_mode = 'inside'
         then coalesce((select sum((one->>'tax')::bigint) from jsonb_array_elements(line.taxes) as one), 0)
           else 0 end)::bigint as net
     from sale_line as line join standing_sale as sale on sale.id = line.sale_id
     where line.item_id = $1 and sale.business_date >= date_trunc('month', $2::date) group by 1 order by 1`,
    [id, since],
  );
}
