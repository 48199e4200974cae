import { DateTime } from 'luxon';
import { accountEntries } from '../core/books/entries.ts';
import type { Writer } from '../server/db/database.ts';
import { postEvent } from '../server/books/store.ts';
import type { By } from '../server/people/accounts.ts';
import { putAccount, putAccountRules, putBuyers, putOnAccount } from '../server/people/accountStore.ts';
import { ACCOUNTS, CUSTOMERS } from './data/customers.ts';
import type { PastAccount } from './pastTenders.ts';

const RULES = {
  limit: 20_000,
  daysToPay: 30,
  sheet: 'LETTER' as const,
  howToPay: 'Please pay to the shop’s account at the Harbour Bank, and write {number} as the reference.',
  reminders: [7, 21, 42],
  byItself: false,
};

/** House accounts as the shop has opened them, by the customers who buy on them. */
export type DemoAccounts = ReadonlyMap<number, PastAccount>;

/** Opens the house accounts of the made-up shop, with what was owed before these books. */
export async function layAccounts(sql: Writer, customers: readonly number[], by: By): Promise<DemoAccounts> {
  await putAccountRules(sql, RULES);
  const found = new Map<number, PastAccount>();
  const idOf = (name: string) => customers[CUSTOMERS.findIndex((one) => one.name === name)] ?? 0;
  const day = by.at.toISOString().slice(0, 10);
  for (const { owner, limit, asksFor = '', buyers = [], owed, ofCompany = false } of ACCOUNTS) {
    const customerId = idOf(owner);
    const wanted = { ofCompany, limit, daysToPay: 30, blocked: false, asksFor, version: null };
    const accountId = (await putAccount(sql, customerId, wanted, by)) ?? 0;
    const members = buyers.map(({ name, most }) => ({ customerId: idOf(name), most }));
    await putBuyers(sql, accountId, members);
    const company = CUSTOMERS.find(({ name }) => name === owner)?.company;
    const account = { accountId, customerId, name: (ofCompany && company) || owner, asksFor };
    for (const id of [customerId, ...members.map((buyer) => buyer.customerId)]) found.set(id, account);
    if (!owed) continue;
    await putOnAccount(sql, { accountId, kind: 'opening', amount: owed, day, words: 'From before' }, by);
    const entries = accountEntries({ customerId, amount: owed, against: 'opening-balance' });
    await postEvent(sql, { kind: 'opening', ...by, entries });
  }
  return found;
}

interface Charged {
  saleId: string;
  accountId: number;
  customerId: number;
  amount: number;
  day: string;
  at: string;
  staffId: number;
  buyerId: number;
  reference: string;
}

/** A month's charges are paid so many days into the next month. */
const PAID_AFTER_DAYS = 8;

/**
 * Puts what was charged in past weeks onto the accounts, and lets most of them be paid by bank a month later: one
 * pays a little too much, one has stopped paying.
 */
export async function layCharges(sql: Writer, staffId: number, until: Date): Promise<void> {
  const charges = await sql.query<Charged>(
    `select sale.id as "saleId", account_id as "accountId", account.customer_id as "customerId", amount,
       business_date::text as day, finished_at as at, staff_id as "staffId", sale.customer_id as "buyerId",
       tender.reference
     from tender join sale on sale.id = sale_id join account on account.id = account_id
     order by finished_at, sale.id`,
  );
  for (const { customerId: _, ...charge } of charges)
    await sql.query('select put_on_account($1)', [JSON.stringify({ ...charge, kind: 'charge' })]);
  const today = DateTime.fromJSDate(until);
  for (const { owner, pays } of ACCOUNTS) {
    if (pays === 'never') continue;
    const [account] = await sql.query<{ id: number; customerId: number }>(
      'select account.id, customer_id as "customerId" from account join customer on customer.id = customer_id where name = $1',
      [owner],
    );
    if (!account) continue;
    for (let month = 3; month >= 1; month--) {
      const paid = today
        .minus({ months: month - 1 })
        .startOf('month')
        .plus({ days: PAID_AFTER_DAYS });
      if (paid >= today.startOf('day')) continue;
      const before = paid.startOf('month').toISODate() ?? '';
      const [owed] = await sql.query<{ amount: number }>(
        `select coalesce(sum(amount), 0)::bigint as amount from account_item where account_id = $1
         and (day < $2 or amount < 0)`,
        [account.id, before],
      );
      const amount = (owed?.amount ?? 0) + (pays === 'too-much' && month === 1 ? 12_000 : 0);
      if (amount <= 0) continue;
      const at = paid.plus({ hours: 9 }).toJSDate();
      const item = {
        accountId: account.id,
        kind: 'bank' as const,
        amount: 0 - amount,
        day: paid.toISODate() ?? '',
      };
      await putOnAccount(sql, { ...item, words: owner }, { staffId, at });
      const entries = accountEntries({
        customerId: account.customerId,
        amount: 0 - amount,
        against: 'bank-in-transit',
      });
      await postEvent(sql, { kind: 'account', staffId, at, entries });
    }
  }
}
