import { receiptNumber } from '../../core/journal/receiptNumber.ts';
import { pastLine, type PastBasket, type SoldLine } from '../../core/offers/rehearse.ts';
import { iso, timeOfDay } from '../clock.ts';
import { one, type Reader } from '../db/database.ts';

/** From which day to which, both included, `YYYY-MM-DD`. */
export interface Days {
  from: string;
  to: string;
}

/** Sales that stand, and in which goods did not only come back. */
const SOLD = "(select * from standing_sale where kind <> 'return') as sale";

export async function countPastBaskets(sql: Reader, { from, to }: Days): Promise<number> {
  const rows = await sql.query<{ count: number }>(
    `select count(*) as count from ${SOLD} where business_date between $1 and $2`,
    [from, to],
  );
  return one(rows).count;
}

interface SoldBasket extends Pick<PastBasket, 'saleId' | 'placeId' | 'customer' | 'groups' | 'opened'> {
  till: number;
  number: number;
  day: string;
  finishedAt: string;
  lines: SoldLine[];
}

/**
 * Some of the baskets sold on some days, in the order of their sale ids.
 * @param after the last one of those before, @param most how many
 */
export async function pastBaskets(
  sql: Reader,
  { from, to }: Days,
  timezone: string,
  after: string,
  most: number,
): Promise<PastBasket[]> {
  const rows = await sql.query<SoldBasket>(
    `select sale.id as "saleId", till.number as till, sale.number, business_date as day, finished_at as "finishedAt",
            till.place_id as "placeId", customer_id is not null as customer,
            coalesce((select json_agg(customer_group.name) from customer as buyer
              join customer_membership as member on member.customer_id = coalesce(buyer.merged_into, buyer.id)
              join customer_group on customer_group.id = member.group_id
              where buyer.id = sale.customer_id), '[]'::json) as groups,
            coalesce((select json_agg(json_build_object('offerId', offer_id, 'uses', uses))
              from offer_use where sale_id = sale.id and uses > 0), '[]'::json) as opened,
            coalesce((select json_agg(json_build_object(
               'goods', json_build_object('itemId', item.id, 'familyId', item.family_id, 'category', category.name),
               'quantity', quantity, 'decimals', item.decimals, 'regular', regular, 'records', records,
               'cost', item.cost) order by position)
             from sale_line join item on item.id = item_id join category on category.id = item.category_id
             -- What was promised costs what was said; money of a promise, for an account or on a card is no goods.
             where sale_id = sale.id and quantity > 0 and promise_id is null and account_id is null
               and stored_value_id is null), '[]'::json) as lines
     from ${SOLD} join till on till.id = sale.till_id
     where business_date between $1 and $2 and sale.id > $3
     order by sale.id limit $4`,
    [from, to, after, most],
  );
  return rows.map(({ till, number, finishedAt, lines, ...rest }) => ({
    ...rest,
    number: receiptNumber(till, number),
    time: timeOfDay(new Date(iso(finishedAt)), timezone),
    lines: lines.map(pastLine),
  }));
}
