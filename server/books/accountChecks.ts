import type { Check } from './check.ts';

/** What has to tie out of house accounts: what is owed is what is open, in the books and on the account. */
export const ACCOUNT_CHECKS: readonly Check[] = [
  {
    name: 'what is owed on an account is the sum of its items',
    sql: `select 'account ' || account.id as what, balance as kept, coalesce(summed, 0)::bigint as recomputed
          from account left join (select account_id, sum(amount) as summed from account_item group by 1) as items
            on account_id = account.id
          where balance <> coalesce(summed, 0)`,
  },
  {
    name: 'what is owed on an account is what is open on it',
    sql: `select 'account ' || account.id as what, balance as kept, coalesce(summed, 0)::bigint as recomputed
          from account left join (select account_id, sum(remaining) as summed from account_item group by 1) as items
            on account_id = account.id
          where balance <> coalesce(summed, 0)`,
  },
  {
    name: 'what is open of an item is its amount less what others paid of it',
    sql: `select 'account item ' || item.id as what, remaining as kept,
                 (amount - coalesce(paid, 0) + coalesce(pays, 0))::bigint as recomputed
          from account_item as item
          left join (select item_id, sum(amount) as paid from account_match group by 1) as charged on item_id = item.id
          left join (select by_id, sum(amount) as pays from account_match group by 1) as paying on by_id = item.id
          where remaining <> amount - coalesce(paid, 0) + coalesce(pays, 0)`,
  },
  {
    name: 'nothing is over on an account on which something is open',
    sql: `select 'account ' || account_id as what, 0::bigint as kept, min(remaining) as recomputed
          from account_item group by account_id having min(remaining) < 0 and max(remaining) > 0`,
  },
  {
    name: 'items pay items of the same account',
    sql: `select 'account item ' || match.by_id as what, payer.account_id::bigint as kept,
      item.account_id::bigint as recomputed
          from account_match as match join account_item as item on item.id = item_id
          join account_item as payer on payer.id = by_id where item.account_id <> payer.account_id`,
  },
  {
    name: 'the books hold for each customer what is owed on their account',
    sql: `select coalesce(owner, subject) as what, coalesce(owed, 0)::bigint as kept,
      coalesce(posted, 0)::bigint as recomputed
          from (select 'customer:' || customer_id as owner, balance as owed from account) as held
          full join (select subject, sum(amount) as posted from ledger_entry where account = 'receivable'
            group by 1) as books
            on subject = owner
          where coalesce(owed, 0) <> coalesce(posted, 0)`,
  },
  {
    name: 'what sales charged to accounts, and paid onto them, is on the accounts',
    sql: `select 'sale ' || sale.id as what, items.amount as kept, (paid.amount - money.amount)::bigint as recomputed
          from sale, lateral (select coalesce(sum(amount), 0)::bigint as amount from account_item
            where sale_id = sale.id) as items, lateral (select coalesce(sum(amount), 0) as amount from tender
                   where sale_id = sale.id and account_id is not null and not exists (
                     select 1 from sale_void where sale_id = sale.id and state = 'done')) as paid,
          lateral (select coalesce(sum(net), 0) as amount from sale_line
                   where sale_id = sale.id and account_id is not null and not exists (
                     select 1 from sale_void where sale_id = sale.id and state = 'done')) as money
          where sale.id in (select sale_id from account_item union select sale_id from tender
            where account_id is not null
                            union select sale_id from sale_line where account_id is not null)
            and items.amount <> paid.amount - money.amount`,
  },
  {
    name: 'a line of the bank is on the account that it was booked to',
    sql: `select 'bank line ' || line.id as what, line.amount as kept, (0 - item.amount)::bigint as recomputed
          from bank_line as line join account_item as item on item.id = item_id
          where item.kind <> 'bank' or line.amount <> 0 - item.amount`,
  },
];
