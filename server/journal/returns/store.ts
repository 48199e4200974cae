import type { ReturnWay, SoldLine } from '../../../core/journal/returns.ts';
import type { Offer } from '../../../core/offers/offer.ts';
import { one, type Reader } from '../../db/database.ts';
import { offersOfSale, type ReturningOffer } from '../../offers/offerStore.ts';

export interface OriginSale {
  id: string;
  till: number;
  count: number;
  finishedAt: string;
  businessDate: string;
  placeId: number;
  /** Whether a customer was on it. */
  hadCustomer: boolean;
  /** Who that is now, with the groups that they are in; nobody once they are forgotten. */
  customer: { id: number; name: string } | null;
  customerGroups: string[];
  voided: 'begun' | 'done' | null;
}

/** A sold line with what the Counter needs to take it back. */
export interface OriginLine extends SoldLine {
  itemId: number;
  number: string;
  name: string;
  unit: string;
  decimals: number;
  taxCategoryId: number;
  unitPrice: number;
  serial: string | null;
  /** A gift card that was sold, or money of a promise: neither comes back as goods. */
  noGoods: boolean;
  category: string;
  familyId: number | null;
  label: boolean;
}

/** Everything about a sale that a return is worked out from, read at once. */
export interface Origin {
  sale: OriginSale;
  lines: OriginLine[];
  offers: ReturningOffer[];
  /** Offers with codes or points that the sale used, and how often. */
  unlocked: { offerId: number; uses: number }[];
}

export async function originOf(sql: Reader, saleId: string): Promise<Origin | null> {
  const [row] = await sql.query<{ sale: OriginSale; lines: OriginLine[]; unlocked: Origin['unlocked'] }>(
    `select json_build_object('id', sale.id, 'till', till.number, 'count', sale.number, 'finishedAt', sale.finished_at,
         'businessDate', business_date, 'placeId', till.place_id, 'hadCustomer', sale.customer_id is not null,
         'customer', (select json_build_object('id', id, 'name', name) from customer where id = buyer),
         'customerGroups', coalesce((select json_agg(customer_group.name) from customer_membership
           join customer_group on customer_group.id = group_id where customer_id = buyer), '[]'::json),
         'voided', (select state from sale_void where sale_id = sale.id)) as sale,
       coalesce((select json_agg(json_build_object(
         'position', line.position, 'itemId', line.item_id, 'number', line.number, 'name', line.name,
         'unit', line.unit, 'decimals', item.decimals, 'taxCategoryId', item.tax_category_id,
         'quantity', line.quantity, 'unitPrice', line.unit_price, 'regular', line.regular, 'net', line.net,
         'records', line.records, 'taxes', line.taxes, 'serial', line.serial,
         'noGoods', line.stored_value_id is not null or line.account_id is not null
           or coalesce(line.promise_part <> 'goods', false), 'category', category.name, 'familyId', item.family_id,
         'label', line.records @> '[{"kind": "label-price"}]',
         'back', json_build_object(
           'quantity', line.quantity - coalesce(rest.quantity, line.quantity),
           'net', line.net - coalesce(rest.net, line.net),
           'taxes', coalesce((select json_agg(json_build_object('rateId', tax.value->'rateId',
               'tax', -(tax.value->>'tax')::bigint))
             from sale_line as back cross join jsonb_array_elements(back.taxes) as tax
             where back.return_sale = sale.id and back.return_position = line.position
               and not exists (select 1 from sale_void where sale_id = back.sale_id and state = 'done')), '[]'::json)))
         order by line.position)
         from sale_line as line join item on item.id = line.item_id join category on category.id = item.category_id
         left join lines_left(sale.id) as rest on rest.position = line.position
         where line.sale_id = sale.id and line.quantity > 0), '[]'::json) as lines,
       coalesce((select json_agg(json_build_object('offerId', offer_id, 'uses', uses))
         from (select offer_id, sum(uses) as uses from offer_use where sale_id = sale.id and uses > 0 group by offer_id)
           as used), '[]'::json) as unlocked
     from sale join till on till.id = sale.till_id cross join person_now(sale.customer_id) as buyer
     where sale.id = $1`,
    [saleId],
  );
  if (!row) return null;
  return { ...row, offers: await offersOfSale(sql, saleId) };
}

export interface ReturnRules {
  returnDays: number;
  refundRest: 'cash' | 'store-credit';
  noReceiptDays: number;
  noReceiptWarning: number;
}

export async function returnRules(sql: Reader): Promise<ReturnRules> {
  return one(
    await sql.query<ReturnRules>(
      `select return_days as "returnDays", refund_rest as "refundRest", no_receipt_days as "noReceiptDays",
              no_receipt_warning as "noReceiptWarning" from shop`,
    ),
  );
}

/** How often a customer has brought goods back without a receipt lately. */
export async function returnsWithoutReceipt(
  sql: Reader,
  customerId: number,
  since: Date,
): Promise<{ count: number; amount: number }> {
  return one(
    await sql.query<{ count: number; amount: number }>(
      `select count(distinct sale.id)::integer as count, coalesce(-sum(line.net), 0)::bigint as amount
       from sale join sale_line as line on line.sale_id = sale.id
       where sale.customer_id = any (one_person($1)) and sale.finished_at >= $2
         and line.quantity < 0 and line.return_sale is null
         and not exists (select 1 from sale_void where sale_id = sale.id)`,
      [customerId, since.toISOString()],
    ),
  );
}

/** Whether one of the offers leaves the way of refunding to people, or asks for one. */
export const waysOf = (offers: readonly ReturningOffer[], used: ReadonlySet<number>): ReturnWay[] =>
  offers.filter(({ offer }) => used.has(offer.id)).map(({ onReturn }) => onReturn);

export const plainOffers = (offers: readonly ReturningOffer[]): Offer[] => offers.map(({ offer }) => offer);
