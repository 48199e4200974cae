import type { AccountItemView, AccountRules, AccountView, WantedAccount } from '../../contract/accounts.ts';
import type { AccountFacts } from '../../core/people/account.ts';
import type { AccountItemKind } from '../../core/people/accountItemKinds.ts';
import type { MoneyItem } from '../../core/promises/promised.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** Through whom something happens, and when. */
interface By {
  staffId: number | null;
  at: Date;
}

/** What of an account's items should have been paid before a day. @param day an SQL expression */
export const overdue = (day: string): string => `coalesce((select sum(remaining) from account_item
  where account_id = account.id and remaining > 0 and due_on < ${day}), 0)::bigint`;

/** Whose name an account bears, where its customer is joined. */
export const NAMED = 'account_name(account.of_company, customer.name, customer.company)';

const FACTS = `account.id, account.customer_id as "customerId",
  account_name(of_company, owner.name, owner.company) as name, credit_limit as limit, balance as owed,
  held_on_account(account.id) as held, blocked, asks_for as "asksFor"`;

/**
 * The house accounts that a customer may charge: their own first, then those of others that they buy for.
 * @param today the shop's calendar day
 */
export function accountsFor(sql: Reader, customerId: number, today: string): Promise<AccountFacts[]> {
  return sql.query<AccountFacts>(
    `select ${FACTS}, ${overdue('$2::date')} as overdue, buyer.most
     from account join customer as owner on owner.id = account.customer_id and not owner.gone
     left join account_buyer as buyer on buyer.account_id = account.id and buyer.customer_id = $1
     where account.customer_id = $1 or buyer.customer_id is not null
     order by account.customer_id <> $1, owner.sort_name, account.id`,
    [customerId, today],
  );
}

/** An account that money in a basket is for. */
export interface AccountInBasket {
  id: number;
  customerId: number;
  name: string;
  owed: number;
}

/** The accounts that a basket pays onto or out of, by their id. */
export async function accountsInBasket(
  sql: Reader,
  ids: readonly number[],
): Promise<Map<number, AccountInBasket>> {
  if (ids.length === 0) return new Map();
  const rows = await sql.query<AccountInBasket>(
    `select account.id, customer_id as "customerId", ${NAMED} as name, balance as owed
     from account join customer on customer.id = customer_id where account.id = any ($1::integer[])`,
    [ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

export interface StoredAccount {
  id: number;
  customerId: number;
  name: string;
  mail: string;
  ofCompany: boolean;
  limit: number;
  daysToPay: number;
  blocked: boolean;
  asksFor: string;
  owed: number;
  held: number;
  version: number;
}

const STORED = `select account.id, customer_id as "customerId", ${NAMED} as name, mail, of_company as "ofCompany",
  credit_limit as limit, days_to_pay as "daysToPay",
  blocked, asks_for as "asksFor", balance as owed, held_on_account(account.id) as held, account.version
  from account join customer on customer.id = customer_id`;

export async function accountOf(sql: Reader, customerId: number): Promise<StoredAccount | undefined> {
  const [row] = await sql.query<StoredAccount>(`${STORED} where customer_id = $1`, [customerId]);
  return row;
}

export async function accountById(sql: Reader, id: number): Promise<StoredAccount | undefined> {
  const [row] = await sql.query<StoredAccount>(`${STORED} where account.id = $1`, [id]);
  return row;
}

/** Opens an account, or changes it if it still is as it was looked at. @returns its id; nothing where it was changed */
export async function putAccount(
  sql: Writer,
  customerId: number,
  { ofCompany, limit, daysToPay, blocked, asksFor, version }: Omit<WantedAccount, 'buyers'>,
  { staffId, at }: By,
): Promise<number | undefined> {
  const [row] =
    version === null
      ? await sql.query<{ id: number }>(
          `insert into account (customer_id, credit_limit, days_to_pay, blocked, asks_for, opened_at, opened_by,
            of_company)
           values ($1, $2, $3, $4, $5, $6, $7, $8) on conflict do nothing returning id`,
          [customerId, limit, daysToPay, blocked, asksFor, at.toISOString(), staffId, ofCompany],
        )
      : await sql.query<{ id: number }>(
          `update account set credit_limit = $2, days_to_pay = $3, blocked = $4, asks_for = $5, of_company = $7,
            version = version + 1
           where customer_id = $1 and version = $6 returning id`,
          [customerId, limit, daysToPay, blocked, asksFor, version, ofCompany],
        );
  return row?.id;
}

export async function putBuyers(
  sql: Writer,
  accountId: number,
  buyers: WantedAccount['buyers'],
): Promise<void> {
  await sql.query('delete from account_buyer where account_id = $1', [accountId]);
  await sql.query(
    `insert into account_buyer (account_id, customer_id, most)
     select $1, "customerId", most from jsonb_to_recordset($2) as buyer ("customerId" integer, most bigint)`,
    [accountId, JSON.stringify(buyers)],
  );
}

export function buyersOf(sql: Reader, accountId: number): Promise<AccountView['buyers']> {
  return sql.query(
    `select customer_id as "customerId", name, most from account_buyer join customer on customer.id = customer_id
     where account_id = $1 order by sort_name, customer_id`,
    [accountId],
  );
}

const ITEM = `item.id, item.kind, item.day::text as day, item.due_on::text as "dueOn", item.amount, item.remaining,
  item.sale_id as "saleId", receipt_number(till.number, sale.number) as sale, item.reference, item.words,
  staff.name as by,
  (select name from customer where customer.id = item.buyer_id and item.buyer_id <> account.customer_id) as buyer
  from account_item as item join account on account.id = item.account_id
  left join sale on sale.id = item.sale_id left join till on till.id = sale.till_id
  left join staff on staff.id = item.staff_id`;
const SHOWN = 60;

/** What stands on an account: what is open, the oldest first, then the latest of what is settled. */
export function itemsOf(sql: Reader, accountId: number): Promise<AccountItemView[]> {
  return sql.query<AccountItemView>(
    `(select ${ITEM} where account_id = $1 and remaining <> 0 order by item.due_on, item.id)
     union all
     (select ${ITEM} where account_id = $1 and remaining = 0 order by item.id desc limit ${SHOWN})`,
    [accountId],
  );
}

/** What is open on accounts. */
export function openItems(
  sql: Reader,
  accountIds: readonly number[],
): Promise<
  { accountId: number; dueOn: string; remaining: number; receipt: string | null; reference: string }[]
> {
  return sql.query(
    `select item.account_id as "accountId", due_on::text as "dueOn", remaining, reference,
       receipt_number(till.number, sale.number) as receipt
     from account_item as item left join sale on sale.id = item.sale_id left join till on till.id = sale.till_id
     where account_id = any ($1::integer[]) and remaining <> 0 order by due_on, item.id`,
    [accountIds],
  );
}

/** Writes an item onto an account, whose row is locked. @returns its number */
export async function putOnAccount(
  sql: Writer,
  item: {
    accountId: number;
    kind: AccountItemKind;
    amount: number;
    day: string;
    words?: string;
    picked?: readonly number[];
  },
  { staffId, at }: By,
): Promise<number> {
  const rows = await sql.query<{ id: number }>('select put_on_account($1) as id', [
    JSON.stringify({ ...item, at: at.toISOString(), staffId }),
  ]);
  return one(rows).id;
}

export function remindersOf(sql: Reader, accountId: number): Promise<AccountView['reminders']> {
  return sql.query(
    `select step, day::text as day, amount from account_reminder where account_id = $1 order by day desc, step desc`,
    [accountId],
  );
}

/** Notes a reminder. @returns false where it went out on that day before */
export async function addReminder(
  sql: Writer,
  reminder: { accountId: number; step: number; day: string; amount: number; at: Date },
): Promise<boolean> {
  const { accountId, step, day, amount, at } = reminder;
  const rows = await sql.query(
    `insert into account_reminder (account_id, step, day, amount, at) values ($1, $2, $3, $4, $5)
     on conflict do nothing returning step`,
    [accountId, step, day, amount, at.toISOString()],
  );
  return rows.length > 0;
}

/** How the shop keeps house accounts. */
export async function readAccountRules(sql: Reader): Promise<AccountRules> {
  return one(await sql.query<{ rules: AccountRules }>('select account_rules as rules from shop')).rules;
}

export async function putAccountRules(sql: Writer, rules: AccountRules): Promise<void> {
  await sql.query('update shop set account_rules = $1', [JSON.stringify(rules)]);
}

/** The item as which money for an account is rung up. */
export async function accountItem(sql: Reader): Promise<MoneyItem | null> {
  const [row] = await sql.query<MoneyItem>(
    `select id as "itemId", number, unit, tax_category_id as "taxCategoryId" from item
     where id = (select account_item_id from shop)`,
  );
  return row ?? null;
}

export async function setAccountItem(sql: Writer, itemId: number): Promise<void> {
  await sql.query('update item set active = false where id = $1', [itemId]);
  await sql.query('update shop set account_item_id = $1', [itemId]);
}

/** Lets what is over on an account pay what is open on it. */
export async function settleAccount(sql: Writer, accountId: number, day: string, at: Date): Promise<void> {
  await sql.query('select settle_account($1, $2::date, $3)', [accountId, day, at.toISOString()]);
}

/** Rows that belong to accounts, by the account. */
export function byAccount<Row extends { accountId: number }>(rows: readonly Row[]): Map<number, Row[]> {
  const found = new Map<number, Row[]>();
  for (const row of rows) {
    const known = found.get(row.accountId);
    if (known) known.push(row);
    else found.set(row.accountId, [row]);
  }
  return found;
}

/** What a sale did to accounts: what was owed before it, and after; one that was voided later counts as it was. */
export function accountsOfSale(
  sql: Reader,
  saleId: string,
): Promise<{ name: string; before: number; after: number }[]> {
  return sql.query(
    `select ${NAMED} as name, (past.amount - mine.amount)::bigint as before, past.amount::bigint as after
     from (select account_id, sum(amount) as amount, max(id) as last from account_item
           where sale_id = $1 and kind <> 'void' group by account_id) as mine
     join account on account.id = mine.account_id join customer on customer.id = account.customer_id
     cross join lateral (select sum(amount) as amount from account_item
       where account_id = mine.account_id and id <= mine.last) as past
     where mine.amount <> 0 order by 1`,
    [saleId],
  );
}
