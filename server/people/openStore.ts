import type { PromiseKind } from '../../core/promises/promiseNumber.ts';
import { one, type Reader } from '../db/database.ts';

/** What is not over yet between the shop and a customer. */
export interface OpenMatters {
  owes: number;
  credit: number;
  /** What cards in their name hold. */
  values: number;
  /** Names or tickets of baskets that are on hold for them. */
  held: string[];
  promises: { kind: PromiseKind; number: number }[];
}

/** Tills on which somebody is on the basket, or money is being taken from them, just now. */
export async function tillsWith(sql: Reader, customerId: number): Promise<number[]> {
  const rows = await sql.query<{ number: number }>(
    `select distinct till.number from (
       select till_id, content from basket union all select till_id, basket from payment where state = 'open') as rung
     join till on till.id = till_id
     where (content->'customer'->>'id')::integer = any (one_person($1)) order by 1`,
    [customerId],
  );
  return rows.map(({ number }) => number);
}

export async function openMatters(sql: Reader, customerId: number): Promise<OpenMatters> {
  return one(
    await sql.query<OpenMatters>(
      `with person as (select unnest(one_person($1)) as id)
     select
       coalesce((select sum(balance) from account_balance join person on subject = 'customer:' || person.id
         where account = 'receivable'), 0)::bigint as owes,
       coalesce((select 0 - sum(balance) from account_balance join person on subject = 'customer:' || person.id
         where account = 'store-credit'), 0)::bigint as credit,
       coalesce((select sum(balance) from stored_value join person on person.id = customer_id
         where kind <> 'store-credit'), 0)::bigint as values,
       coalesce((select json_agg(coalesce(nullif(name, ''), ticket::text) order by ticket) from held_basket
         where taken_at is null and (content->'customer'->>'id')::integer in (select id from person)),
         '[]'::json) as held,
       coalesce((select json_agg(json_build_object('kind', kind, 'number', number) order by made_at) from promise
         join person on person.id = customer_id where cancelled_at is null and handed < units),
         '[]'::json) as promises`,
      [customerId],
    ),
  );
}
