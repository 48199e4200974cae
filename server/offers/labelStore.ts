import type { Money } from '../../core/money.ts';
import type { OfferGoods } from '../../core/offers/offer.ts';
import type { Reader } from '../db/database.ts';

export function itemNames(sql: Reader, ids: readonly number[]): Promise<{ id: number; name: string }[]> {
  return sql.query<{ id: number; name: string }>('select id, name from item where id = any ($1::integer[])', [
    ids,
  ]);
}

/** An item as its label shows it. */
export interface PricedItem {
  name: string;
  price: Money;
  code: string | null;
}

/** Goods that have a price, by name. @param most how many at most */
export function pricedItems(
  sql: Reader,
  { itemIds, categories }: OfferGoods,
  most: number,
): Promise<PricedItem[]> {
  return sql.query<PricedItem>(
    `select item.name, price, (select min(code) from item_code where item_id = item.id) as code
     from item join category on category.id = category_id
     where active and price > 0 and (item.id = any ($1::integer[]) or family_id = any ($1::integer[])
       or category.name = any ($2::text[])) order by item.name limit $3`,
    [itemIds, categories, most],
  );
}

/** A bundle of the catalogue: its parts as `item quantity`, and what they cost one by one. */
export interface PricedBundle {
  name: string;
  code: string | null;
  parts: string[];
  before: Money;
}

export function pricedBundles(sql: Reader): Promise<PricedBundle[]> {
  return sql.query<PricedBundle>(
    `select bundle.name, (select min(code) from item_code where item_id = bundle.id) as code,
            json_agg(part.item_id || ' ' || part.quantity) as parts,
            sum(item.price * part.quantity / 1000)::bigint as before
     from item as bundle join bundle_part as part on part.bundle_id = bundle.id join item on item.id = part.item_id
     where bundle.active group by bundle.id, bundle.name`,
  );
}
