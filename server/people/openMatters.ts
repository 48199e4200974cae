import { formatMoney } from '../../core/money.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import type { PromiseKind } from '../../core/promises/promiseNumber.ts';
import type { Reader } from '../db/database.ts';

interface Open {
  owes: number;
  credit: number;
  values: number;
  tills: number[];
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

/** What is not over yet between the shop and a customer, in words; empty where nothing is. @param digits of the currency */
export async function whatIsOpen(sql: Reader, customerId: number, digits: number): Promise<string[]> {
  const [open] = await sql.query<Omit<Open, 'tills'>>(
    `with person as (select unnest(one_person($1)) as id)
     select
       coalesce((select sum(balance) from account_balance join person on subject = 'customer:' || person.id
         where account = 'receivable'), 0)::bigint as owes,
       coalesce((select 0 - sum(balance) from account_balance join person on subject = 'customer:' || person.id
         where account = 'store-credit'), 0)::bigint as credit,
       coalesce((select sum(balance) from stored_value join person on person.id = customer_id
         where kind <> 'store-credit'), 0)::bigint as values,
       coalesce((select json_agg(coalesce(nullif(name, ''), ticket::text) order by ticket) from held_basket
         where taken_at is null and (content->'customer'->>'id')::integer in (select id from person)), '[]'::json) as held,
       coalesce((select json_agg(json_build_object('kind', kind, 'number', number) order by made_at) from promise
         join person on person.id = customer_id where cancelled_at is null and handed < units), '[]'::json) as promises`,
    [customerId],
  );
  if (!open) return [];
  const tills = await tillsWith(sql, customerId);
  const money = (amount: number) => formatMoney(amount, digits);
  return [
    ...(open.owes > 0 ? [`They owe ${money(open.owes)}.`] : []),
    ...(open.owes < 0 ? [`We owe them ${money(-open.owes)}.`] : []),
    ...(open.credit > 0 ? [`They have store credit of ${money(open.credit)}.`] : []),
    ...(open.values > 0 ? [`A gift card in their name holds ${money(open.values)}.`] : []),
    ...tills.map((till) => `They are on the basket at till ${till}.`),
    ...open.held.map((name) => `Basket ${name} is on hold for them.`),
    ...open.promises.map(({ kind, number }) => `${promiseNumber(kind, number)} waits for them.`),
  ];
}
