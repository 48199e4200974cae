import type { Reader } from '../db/database.ts';

/** What lay of each item at each place, and what it cost, before a moment; without one, by now. */
const LAY = `select item_id, place_id, sum(quantity) as quantity, coalesce(sum(cost), 0) as value from stock_move
  where $1::timestamptz is null or at < $1 group by 1, 2 having sum(quantity) <> 0 or coalesce(sum(cost), 0) <> 0`;

export function valueByCategory(
  sql: Reader,
  until: string | null,
): Promise<{ category: string; placeId: number; value: number }[]> {
  return sql.query(
    `select category.name as category, place_id as "placeId", sum(lay.value)::bigint as value
     from (${LAY}) as lay join item on item.id = item_id join category on category.id = category_id group by 1, 2`,
    [until],
  );
}

export function valueByItem(
  sql: Reader,
  until: string | null,
): Promise<
  {
    number: string;
    name: string;
    category: string;
    place: string;
    quantity: number;
    unit: string;
    value: number;
  }[]
> {
  return sql.query(
    `select item.number, item.name, category.name as category, place.name as place,
      lay.quantity::bigint as quantity, unit, lay.value::bigint as value
     from (${LAY}) as lay join item on item.id = item_id join category on category.id = category_id
     join place on place.id = lay.place_id order by item.name, item.number, place.name`,
    [until],
  );
}

/** What the books said of stock at each place before a moment. */
export function booksOfStock(
  sql: Reader,
  until: string | null,
): Promise<{ placeId: number; amount: number }[]> {
  return sql.query(
    `select split_part(subject, ':', 2)::integer as "placeId", sum(amount)::bigint as amount
     from ledger_entry join ledger_event as event on event.id = event_id
     where account = 'stock' and ($1::timestamptz is null or event.at < $1) group by 1`,
    [until],
  );
}
