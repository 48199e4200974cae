import type { CustomerGroup, DirectoryQuery, DirectoryRow } from '../../contract/people.ts';
import { DIRECTORY_PAGE, type DirectorySort } from '../../core/people/directory.ts';
import { searchedWords } from '../../core/people/customer.ts';
import { asking } from '../db/asked.ts';
import { one, type Parameter, type Reader } from '../db/database.ts';
import { beginnings } from '../db/words.ts';

/** Customers whose balance of an account is above or below zero. */
const withBalance = (account: 'receivable' | 'store-credit', sign: '>' | '<') =>
  `customer.id in (select substr(subject, 10)::integer from account_balance
    where account = '${account}' and subject like 'customer:%' and balance ${sign} 0)`;

const OWES = `coalesce((select balance from account_balance
  where account = 'receivable' and subject = 'customer:' || customer.id), 0)`;
const CREDIT = `0 - coalesce((select balance from account_balance
  where account = 'store-credit' and subject = 'customer:' || customer.id), 0)`;

const ORDERS: Readonly<Record<DirectorySort, string>> = {
  name: 'customer.sort_name, customer.id',
  seen: 'customer.seen_at desc nulls last, customer.id',
  points: 'customer.points desc, customer.id',
  owes: 'coalesce(owing.balance, 0) desc, customer.sort_name, customer.id',
  added: 'customer.added_at desc, customer.id',
};

/** What an order needs besides customers. */
const ALONG: Readonly<Partial<Record<DirectorySort, string>>> = {
  owes: `left join account_balance as owing
    on owing.account = 'receivable' and owing.subject = 'customer:' || customer.id`,
};

/** What a question asks of a customer, as conditions, and what it asks with. */
function conditions(query: DirectoryQuery, since: string): { where: string; given: Parameter[] } {
  const { given, ask } = asking();
  const parts = ['not customer.gone'];
  const words = searchedWords(query.find);
  if (words.length > 0) {
    parts.push(
      `customer.id in (select id from customer where word_set(words) @@ ${ask(beginnings(words))}::tsquery
        union all select customer_id from customer_card
          where upper(code) = upper(${ask(query.find.trim())}) and replaced_at is null)`,
    );
  }
  if (query.group)
    parts.push(
      `customer.id in (select customer_id from customer_membership where group_id = ${ask(query.group)})`,
    );
  if (query.tag)
    parts.push(`customer.id in (select customer_id from customer_tag where tag = ${ask(query.tag)})`);
  if (query.owes) parts.push(withBalance('receivable', '>'));
  if (query.credit) parts.push(withBalance('store-credit', '<'));
  if (query.news) parts.push('customer.news');
  if (query.pointsFrom !== null) parts.push(`customer.points >= ${ask(query.pointsFrom)}`);
  if (query.pointsTo !== null) parts.push(`customer.points <= ${ask(query.pointsTo)}`);
  if (query.born) parts.push(`customer.birth_month = ${ask(query.born)}`);
  if (query.notSince)
    parts.push(`(customer.seen_at is null or customer.seen_at < ${ask(since)}::timestamptz)`);
  return { where: parts.join(' and '), given };
}

/**
 * Ids of the customers that a question asks for, in its order.
 * @param since the moment at which the day of `notSince` begins, ISO 8601; empty without one
 * @param most so many at most; without it, all
 */
export async function directoryIds(
  sql: Reader,
  query: DirectoryQuery,
  since: string,
  most?: number,
): Promise<number[]> {
  const { where, given } = conditions(query, since);
  const page = most === undefined ? '' : `limit ${most} offset ${query.page * DIRECTORY_PAGE}`;
  const rows = await sql.query<{ id: number }>(
    `select customer.id from customer ${ALONG[query.sort] ?? ''}
     where ${where} order by ${ORDERS[query.sort]} ${page}`,
    given,
  );
  return rows.map(({ id }) => id);
}

/** How many customers a question asks for. */
export async function directoryCount(sql: Reader, query: DirectoryQuery, since: string): Promise<number> {
  const { where, given } = conditions(query, since);
  return one(
    await sql.query<{ count: number }>(
      `select count(*)::integer as count from customer where ${where}`,
      given,
    ),
  ).count;
}

/** Customers as the list shows them, in the order of their ids as given. */
export async function directoryRows(sql: Reader, ids: readonly number[]): Promise<DirectoryRow[]> {
  const rows = await sql.query<DirectoryRow>(
    `select customer.id, customer.name, company, phone, mail, points, seen_at as "seenAt",
       ${OWES}::bigint as owes, (${CREDIT})::bigint as credit,
       coalesce((select json_agg(customer_group.name order by customer_group.name) from customer_membership
          join customer_group on customer_group.id = group_id where customer_id = customer.id), '[]'::json) as groups,
       coalesce((select json_agg(tag order by tag) from customer_tag
         where customer_id = customer.id), '[]'::json) as tags
     from customer where id = any ($1::integer[])`,
    [ids],
  );
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}

/** Tags that are in use. */
export async function tagsInUse(sql: Reader): Promise<string[]> {
  const rows = await sql.query<{ tag: string }>(
    'select distinct tag from customer_tag order by tag limit 200',
  );
  return rows.map(({ tag }) => tag);
}

/** All groups, with how many are in each. */
export async function groupsInUse(sql: Reader): Promise<CustomerGroup[]> {
  return sql.query<CustomerGroup>(
    `select id, name, filled_on as "filledOn",
       case when spent is not null then json_build_object('spent', spent, 'months', months) end as rule,
       coalesce(members.count, 0)::integer as count
     from customer_group left join (
       select group_id, count(*) from customer_membership group by 1) as members on group_id = id
     order by lower(name)`,
  );
}

/** How many addresses somebody has at most. */
export async function mostAddresses(sql: Reader): Promise<number> {
  return one(
    await sql.query<{ most: number }>(
      'select coalesce(max(position) + 1, 0)::integer as most from customer_address',
    ),
  ).most;
}
