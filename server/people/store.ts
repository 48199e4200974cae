import type { CustomerPanel, FoundCustomer } from '../../contract/people.ts';
import type { KnownCode } from '../../core/people/card.ts';
import type { Ending } from '../../core/people/loyalty.ts';
import { customerUses } from '../offers/offerStore.ts';
import type { Reader, Writer } from '../db/database.ts';
import { beginnings } from '../db/words.ts';
import { inSpellings, withItemsMeant } from '../goods/meantStore.ts';

const FOUND = `customer.id, customer.name, customer.company, customer.phone, customer.mail,
  coalesce((select json_agg(customer_group.name order by customer_group.name) from customer_membership
            join customer_group on customer_group.id = group_id
            where customer_id = customer.id), '[]'::json) as groups`;

/** Customers of whose words each begins with one that is searched. */
export function searchCustomers(
  sql: Reader,
  words: readonly string[],
  most: number,
): Promise<FoundCustomer[]> {
  return sql.query<FoundCustomer>(
    // Found first, then put in order: to go through all in their order would take long where few are found.
    `with found as materialized (
       select id, sort_name from customer where word_set(words) @@ $1::tsquery and not gone),
     listed as (select id from found order by sort_name, id limit $2)
     select ${FOUND} from listed join customer using (id) order by sort_name, customer.id`,
    [beginnings(words), most],
  );
}

/** Who has a card, and whether the card still counts. */
export async function customerOfCard(
  sql: Reader,
  code: string,
): Promise<{ customerId: number; name: string; replaced: boolean; since: string | null } | undefined> {
  const [row] = await sql.query<{
    customerId: number;
    name: string;
    replaced: boolean;
    since: string | null;
  }>(
    `select customer_id as "customerId", customer.name, replaced_at is not null as replaced, replaced_at as since
     from customer_card join customer on customer.id = customer_id where upper(code) = upper($1)`,
    [code],
  );
  return row;
}

/** The codes of cards that count, by customer. */
export async function activeCards(sql: Reader, ids: readonly number[]): Promise<Map<number, string[]>> {
  const rows = await sql.query<{ id: number; codes: string[] }>(
    `select customer_id as id, array_agg(code order by code) as codes from customer_card
     where customer_id = any ($1::integer[]) and replaced_at is null group by 1`,
    [ids],
  );
  return new Map(rows.map(({ id, codes }) => [id, codes]));
}

/** What is known of codes, by the codes in capitals: who has them as a card, or what is sold under them. */
export async function knownCodes(sql: Reader, codes: readonly string[]): Promise<Map<string, KnownCode>> {
  if (codes.length === 0) return new Map();
  const rows = await sql.query<{ code: string; known: KnownCode }>(
    `${withItemsMeant('$1')}
     select upper(asked.code) as code, json_strip_nulls(json_build_object(
       'item', (select name from meant where meant.code = asked.code limit 1),
       'holder', case when card.code is not null then json_build_object('customerId', card.customer_id,
          'name', customer.name, 'stopped', card.replaced_at is not null) end)) as known
     from (select distinct code from asked) as asked
     left join customer_card as card on upper(card.code) = upper(asked.code)
     left join customer on customer.id = card.customer_id
     where card.code is not null or asked.code in (select code from meant)`,
    [inSpellings(codes)],
  );
  return new Map(rows.map(({ code, known }) => [code, known]));
}

/** Takes a customer's row until the transaction ends. @returns whether they are there */
export async function lockCustomer(sql: Writer, id: number): Promise<boolean> {
  const rows = await sql.query('select 1 from customer where id = $1 and not gone for no key update', [id]);
  return rows.length > 0;
}

/** Points that a customer has from before; they never end. */
export async function addPoints(sql: Writer, customerId: number, points: number, at: Date): Promise<void> {
  await sql.query("select add_points($1, $2, 'opening', null, $3, null)", [
    customerId,
    points,
    at.toISOString(),
  ]);
}

/** A panel as it is stored: all points that end, on whatever day. */
export type StoredPanel = Omit<CustomerPanel, 'promises' | 'ending' | 'accounts'> & { endings: Ending[] };

/** What the Counter shows of a customer but for who they may be mistaken for. */
export async function customerPanel(
  sql: Reader,
  id: number,
  visits: number,
): Promise<StoredPanel | undefined> {
  const [row] = await sql.query<{ panel: StoredPanel }>(
    `select json_build_object(
       'id', customer.id, 'name', customer.name, 'company', company, 'phone', phone, 'mail', mail,
       'birthMonth', birth_month, 'birthDay', birth_day, 'note', note,
       'groups', coalesce((select json_agg(customer_group.name order by customer_group.name) from customer_membership
          join customer_group on customer_group.id = group_id where customer_id = customer.id), '[]'::json),
       'owes', coalesce((select balance from account_balance
          where account = 'receivable' and subject = 'customer:' || customer.id), 0),
       'credit', 0 - coalesce((select balance from account_balance
          where account = 'store-credit' and subject = 'customer:' || customer.id), 0),
       'visitCount', (select count(*) from sale where customer_id = any (one_person($1))),
       'visits', coalesce((select json_agg(json_build_object(
           'saleId', visit.id, 'number', receipt_number(visit.till, visit.number),
           'finishedAt', visit.finished_at, 'total', visit.total,
           'lines', coalesce((select json_agg(json_build_object(
                'itemId', item_id, 'name', name, 'quantity', quantity) order by position)
              from sale_line where sale_id = visit.id and account_id is null
                and coalesce(promise_part, 'goods') = 'goods'), '[]'::json)) order by visit.finished_at desc)
         from (select sale.*, till.number as till from sale join till on till.id = sale.till_id
               where sale.customer_id = any (one_person($1)) order by finished_at desc limit $2) as visit), '[]'::json),
       'points', customer.points,
       'endings', coalesce((select json_agg(json_build_object('day', ends_on::text, 'points', remaining))
          from points_lot where customer_id = customer.id and remaining > 0 and ends_on is not null), '[]'::json),
       'offerUses', ${customerUses('$1')},
       'groupPrices', coalesce((select json_agg(json_build_object(
           'itemId', item_id, 'price', price, 'group', customer_group.name))
         from customer_membership join group_price using (group_id) join customer_group on customer_group.id = group_id
         where customer_id = customer.id), '[]'::json)) as panel
     from customer where id = $1 and not gone`,
    [id, visits],
  );
  return row?.panel;
}

/** Ties a card to a customer. @returns false where somebody has it already */
export async function addCard(
  sql: Writer,
  customerId: number,
  code: string,
  { staffId, at }: { staffId: number | null; at: Date },
): Promise<boolean> {
  const rows = await sql.query(
    `insert into customer_card (code, customer_id, added_at, added_by) values ($1, $2, $3, $4)
     on conflict do nothing returning code`,
    [code, customerId, at.toISOString(), staffId],
  );
  return rows.length > 0;
}

/** A lost card's code means nobody any more. @param code of the one; `null` for all of plastic @returns what stopped */
export async function stopCards(
  sql: Writer,
  customerId: number,
  code: string | null,
  { staffId, at }: { staffId: number | null; at: Date },
): Promise<string[]> {
  const rows = await sql.query<{ code: string }>(
    `update customer_card set replaced_at = $3, replaced_by = $4
     where customer_id = $1 and replaced_at is null and (code = $2 or $2::text is null and not for_phone)
     returning code`,
    [customerId, code, at.toISOString(), staffId],
  );
  return rows.map((row) => row.code);
}

export async function putGroupPrice(
  sql: Writer,
  groupId: number,
  itemId: number,
  price: number,
): Promise<void> {
  await sql.query(
    `insert into group_price (group_id, item_id, price) values ($1, $2, $3)
     on conflict (group_id, item_id) do update set price = excluded.price`,
    [groupId, itemId, price],
  );
}
