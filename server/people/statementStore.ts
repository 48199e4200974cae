import type { AccountItemKind } from '../../core/people/accountItemKinds.ts';
import type { OpenItem } from '../../core/people/accountAge.ts';
import { NAMED } from './accountStore.ts';
import type { Reader } from '../db/database.ts';

/** What a statement tells of an item, with whose account it is on. */
export interface StatedItem {
  accountId: number;
  id: number;
  day: string;
  kind: AccountItemKind;
  amount: number;
  receipt: string | null;
  buyerId: number | null;
  buyer: string | null;
  reference: string;
  words: string;
}

/** Everything on accounts up to a day, in the order in which it came. */
export function itemsUntil(sql: Reader, accountIds: readonly number[], to: string): Promise<StatedItem[]> {
  return sql.query<StatedItem>(
    `select item.account_id as "accountId", item.id, item.day::text as day, item.kind, item.amount,
       receipt_number(till.number, sale.number) as receipt, item.reference, item.words,
       nullif(item.buyer_id, account.customer_id) as "buyerId",
       (select name from customer where customer.id = item.buyer_id and item.buyer_id <> account.customer_id) as buyer
     from account_item as item join account on account.id = item.account_id
     left join sale on sale.id = item.sale_id left join till on till.id = sale.till_id
     where item.account_id = any ($1::integer[]) and item.day <= $2 order by item.account_id, item.day, item.id`,
    [accountIds, to],
  );
}

/** What was open on accounts at the end of a day. */
export function openAt(
  sql: Reader,
  accountIds: readonly number[],
  day: string,
): Promise<(OpenItem & { accountId: number })[]> {
  return sql.query(
    `select account_id as "accountId", due_on::text as "dueOn",
       (amount - coalesce((select sum(match.amount) from account_match as match
         where item_id = item.id and match.day <= $2), 0)
        + coalesce((select sum(match.amount) from account_match as match
          where by_id = item.id and match.day <= $2), 0))::bigint
       as remaining
     from account_item as item where account_id = any ($1::integer[]) and day <= $2`,
    [accountIds, day],
  );
}

/** To whom accounts are written. */
export function addressesOf(
  sql: Reader,
  accountIds: readonly number[],
): Promise<
  {
    accountId: number;
    customerId: number;
    name: string;
    person: string;
    company: string;
    mail: string;
    lines: string[];
  }[]
> {
  return sql.query(
    `select account.id as "accountId", customer_id as "customerId", ${NAMED} as name, company, mail,
       customer.name as person,
       coalesce((select array[recipient, street, trim(postcode || ' ' || city)] from customer_address as address
         where address.customer_id = account.customer_id order by position limit 1), '{}') as lines
     from account join customer on customer.id = customer_id where account.id = any ($1::integer[])`,
    [accountIds],
  );
}
