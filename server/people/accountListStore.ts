import type { AccountQuery, AccountRow } from '../../contract/accounts.ts';
import { ACCOUNTS_PAGE } from '../../core/people/account.ts';
import { searchedWords } from '../../core/people/customer.ts';
import { one, type Reader } from '../db/database.ts';
import { wordPatterns } from '../db/words.ts';
import { NAMED } from './accountStore.ts';

const SHOWS: Readonly<Record<AccountQuery['show'], string>> = {
  owing: 'balance > 0',
  over: 'balance < 0',
  all: 'true',
  overdue: `exists (select 1 from account_item
    where account_id = account.id and remaining > 0 and due_on < $2::date)`,
};

/** What a question asks of accounts. Its parameters are patterns of words and today. */
const fits = ({ show }: AccountQuery) =>
  `not customer.gone and customer.words like all ($1::text[]) and $2::date is not null and ${SHOWS[show]}`;

const patternsOf = ({ find }: AccountQuery) => wordPatterns(searchedWords(find));

export type ListedAccount = Omit<AccountRow, 'ages' | 'number'>;

/** Accounts that a question asks for: those that owe most first. @param all without pages */
export function listAccounts(
  sql: Reader,
  query: AccountQuery,
  today: string,
  all = false,
): Promise<ListedAccount[]> {
  const page = all ? '' : `limit ${ACCOUNTS_PAGE} offset ${query.page * ACCOUNTS_PAGE}`;
  return sql.query<ListedAccount>(
    `select account.id, customer_id as "customerId", ${NAMED} as name, mail, credit_limit as
      limit, balance as owed, blocked,
       (select json_build_object('step', step, 'day', day::text) from account_reminder
        where account_id = account.id order by day desc, step desc limit 1) as reminded
     from account join customer on customer.id = customer_id where ${fits(query)}
     order by balance desc, sort_name, account.id ${page}`,
    [patternsOf(query), today],
  );
}

/** How many accounts fit, what they owe, and what is open on them by the day on which it is due. */
export async function countAccounts(
  sql: Reader,
  query: AccountQuery,
  today: string,
): Promise<{ count: number; owed: number; open: { dueOn: string; remaining: number }[] }> {
  const given = [patternsOf(query), today];
  const from = `from account join customer on customer.id = customer_id`;
  const counted = one(
    await sql.query<{ count: number; owed: number }>(
      `select count(*)::integer as count, coalesce(sum(balance), 0)::bigint as owed ${from} where ${fits(query)}`,
      given,
    ),
  );
  const open = await sql.query<{ dueOn: string; remaining: number }>(
    `select due_on::text as "dueOn", sum(remaining)::bigint as remaining
     ${from} join account_item on account_id = account.id and remaining <> 0 where ${fits(query)}
     group by due_on, remaining < 0`,
    given,
  );
  return { ...counted, open };
}
