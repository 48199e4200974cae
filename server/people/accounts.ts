import { counted } from '../../core/locale.ts';
import type {
  AccountPage,
  AccountQuery,
  AccountRow,
  AccountView,
  WantedAccount,
} from '../../contract/accounts.ts';
import { accountNumber } from '../../core/people/account.ts';
import { byAge } from '../../core/people/accountAge.ts';
import { accountEntries } from '../../core/books/entries.ts';
import { formatMoney, type Money } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { Reader, Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import { formChangedMeanwhile, fieldProblem, Problem } from '../http/problem.ts';
import { postEvent } from '../books/store.ts';
import { readShop, shopToday } from '../shop/store.ts';
import * as lists from './accountListStore.ts';
import * as moving from './accountMovingStore.ts';
import * as store from './accountStore.ts';
import { noCustomer } from './noCustomer.ts';
import { noteChanges } from './recordStore.ts';
import { lockCustomer } from './store.ts';

export interface By {
  staffId: number;
  at: Date;
}

const noAccount = (): Problem => new Problem('not-found', 'There is no such house account.');

/** A customer's house account with everything about it; nothing where they have none. */
export async function accountView(
  sql: Reader,
  customerId: number,
  today: string,
): Promise<AccountView | null> {
  const account = await store.accountOf(sql, customerId);
  if (!account) return null;
  const { mail: _, ...facts } = account;
  return {
    ...facts,
    number: accountNumber(account.id),
    ages: byAge(await store.openItems(sql, [account.id]), today),
    buyers: await store.buyersOf(sql, account.id),
    items: await store.itemsOf(sql, account.id),
    reminders: await store.remindersOf(sql, account.id),
  };
}

/** Opens an account for a customer, or changes the one that they have. @throws Problem 404, 409, 422 */
export async function putAccount(
  sql: Writer,
  customerId: number,
  wanted: WantedAccount,
  by: By,
): Promise<AccountView | null> {
  if (!(await lockCustomer(sql, customerId))) throw noCustomer();
  const { buyers } = wanted;
  if (new Set(buyers.map((buyer) => buyer.customerId)).size < buyers.length)
    throw fieldProblem('buyers', 'Somebody is named twice.');
  if (buyers.some((buyer) => buyer.customerId === customerId))
    throw fieldProblem('buyers', 'Whoever owes may buy anyway.');
  const before = await store.accountOf(sql, customerId);
  const id = await store.putAccount(sql, customerId, wanted, by);
  if (id === undefined) {
    throw formChangedMeanwhile('This account was changed by somebody else meanwhile.');
  }
  await store.putBuyers(sql, id, buyers);
  const { digits } = currencyOf((await readShop(sql)).currency);
  const words = (limit: Money, days: number, blocked: boolean) =>
    `limit ${formatMoney(limit, digits)}, ${counted(days, 'day')} to pay${blocked ? ', blocked' : ''}`;
  const changes = [
    {
      what: before ? 'House account' : 'House account opened',
      was: before ? words(before.limit, before.daysToPay, before.blocked) : '',
      became: words(wanted.limit, wanted.daysToPay, wanted.blocked),
    },
  ];
  await noteChanges(sql, customerId, changes, by);
  return accountView(sql, customerId, await shopToday(sql, by.at));
}

/** An account that is about to be changed, with its row locked. @throws Problem 404 */
export async function takeAccount(sql: Writer, accountId: number): Promise<store.StoredAccount> {
  await takeLocks(sql, { accounts: [accountId] });
  const account = await store.accountById(sql, accountId);
  if (!account) throw noAccount();
  return account;
}

/** Money that came by bank for an account. @returns the number of its item. @throws Problem 404, 422 */
export async function takeBankPayment(
  sql: Writer,
  accountId: number,
  paid: { amount: Money; day: string; words: string; items: readonly number[] },
  by: By,
): Promise<number> {
  const { customerId } = await takeAccount(sql, accountId);
  const { amount, day, words, items } = paid;
  if (day > (await shopToday(sql, by.at))) throw fieldProblem('day', 'This day is still to come.');
  const id = await store.putOnAccount(
    sql,
    { accountId, kind: 'bank', amount: 0 - amount, day, words, picked: items },
    by,
  );
  const entries = accountEntries({ customerId, amount: 0 - amount, against: 'bank-in-transit' });
  await postEvent(sql, { kind: 'account', ...by, entries });
  return id;
}

/** What will not be paid is owed no more. @throws Problem 404, 422 */
export async function writeOff(
  sql: Writer,
  accountId: number,
  { amount, words, items }: { amount: Money; words: string; items: readonly number[] },
  by: By,
): Promise<void> {
  const { customerId, owed } = await takeAccount(sql, accountId);
  const { digits } = currencyOf((await readShop(sql)).currency);
  if (amount > owed) throw fieldProblem('amount', `Only ${formatMoney(Math.max(0, owed), digits)} is owed.`);
  const day = await shopToday(sql, by.at);
  await store.putOnAccount(
    sql,
    { accountId, kind: 'written off', amount: 0 - amount, day, words, picked: items },
    by,
  );
  const entries = accountEntries({ customerId, amount: 0 - amount, against: 'write-offs' });
  await postEvent(sql, { kind: 'account', ...by, entries });
}

/** What was owed before the shop began with these books. @throws Problem 404, 422 */
export async function putOpening(
  sql: Writer,
  accountId: number,
  { amount, day, words }: { amount: Money; day: string; words: string },
  by: By,
): Promise<void> {
  const { customerId } = await takeAccount(sql, accountId);
  if (day > (await shopToday(sql, by.at))) throw fieldProblem('day', 'This day is still to come.');
  await store.putOnAccount(sql, { accountId, kind: 'opening', amount, day, words }, by);
  const entries = accountEntries({ customerId, amount, against: 'opening-balance' });
  await postEvent(sql, { kind: 'opening', ...by, entries });
}

/** One page of the accounts that a question asks for, with what all of them come to. */
export async function accountPage(sql: Reader, query: AccountQuery, today: string): Promise<AccountPage> {
  const { count, owed, open } = await lists.countAccounts(sql, query, today);
  return {
    rows: await accountRows(sql, await lists.listAccounts(sql, query, today), today),
    count,
    owed,
    ages: byAge(open, today),
  };
}

/** Accounts as lists show them, with what is open on each by age. */
export async function accountRows(
  sql: Reader,
  listed: readonly lists.ListedAccount[],
  today: string,
): Promise<AccountRow[]> {
  const open = store.byAccount(
    await store.openItems(
      sql,
      listed.map(({ id }) => id),
    ),
  );
  return listed.map((row) => ({
    ...row,
    number: accountNumber(row.id),
    ages: byAge(open.get(row.id) ?? [], today),
  }));
}

/** Somebody's account goes along when their record does: whole, or onto the account that the other one has. */
export async function moveAccount(sql: Writer, goes: number, stays: number, at: Date): Promise<void> {
  await moving.moveBuyer(sql, goes, stays);
  const from = await store.accountOf(sql, goes);
  if (!from) return;
  const to = await store.accountOf(sql, stays);
  if (!to) return moving.giveAccount(sql, from.id, stays);
  await takeLocks(sql, { accounts: [from.id, to.id] });
  if (from.held !== 0) {
    throw new Problem('refused', `Something is being charged to the account of ${from.name} just now.`, {
      detail: 'Finish that sale, or undo the payment; then merge them.',
    });
  }
  await moving.emptyInto(sql, from.id, to.id);
  await store.settleAccount(sql, to.id, await shopToday(sql, at), at);
}
