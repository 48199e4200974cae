import { formatDay } from '../../core/locale.ts';
import type { StatementDays, StatementView } from '../../contract/accounts.ts';
import { ACCOUNT_ITEM_WORDS } from '../../core/people/accountItemKinds.ts';
import { accountNumber } from '../../core/people/account.ts';
import { statementOf, type Statement } from '../../core/people/statement.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { csv } from '../csv.ts';
import type { Reader } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { readShop } from '../shop/store.ts';
import { byAccount, readAccountRules } from './accountStore.ts';
import type { StatementSheet } from './statementPdf.ts';
import { addressesOf, itemsUntil, openAt } from './statementStore.ts';

/** An account's statement, and to whom it is written. */
interface Stated {
  account: StatementView['account'];
  address: string[];
  buyer: string | null;
  statement: Statement;
}

/** The statements of accounts for some days, by their accounts. */
async function stated(
  sql: Reader,
  accountIds: readonly number[],
  { from, to, buyer }: StatementDays,
): Promise<Stated[]> {
  const items = await itemsUntil(sql, accountIds, to);
  const open = await openAt(sql, accountIds, to);
  const owners = await addressesOf(sql, accountIds);
  const itemsBy = byAccount(items);
  const openBy = byAccount(open);
  return owners.map(({ accountId, customerId, name, person, company, mail, lines }) => {
    const mine = itemsBy.get(accountId) ?? [];
    const buyerName = mine.find(({ buyerId }) => buyerId === buyer && buyer !== null)?.buyer ?? null;
    return {
      account: { id: accountId, number: accountNumber(accountId), customerId, name, mail },
      address: [...new Set([name, person, company, ...lines].filter(Boolean))],
      buyer: buyerName,
      statement: statementOf(mine, openBy.get(accountId) ?? [], { from, to, buyer: buyerName }),
    };
  });
}

async function statedOne(sql: Reader, accountId: number, days: StatementDays): Promise<Stated> {
  const [found] = await stated(sql, [accountId], days);
  if (!found) throw new Problem('not-found', 'There is no such house account.');
  return found;
}

/** The statement of an account as a screen shows it. @throws Problem 404 */
export async function statementView(
  sql: Reader,
  accountId: number,
  days: StatementDays,
): Promise<StatementView> {
  const { account, statement } = await statedOne(sql, accountId, days);
  return { account, from: days.from, to: days.to, statement };
}

/** Statements as they are written on sheets, and on which. */
export async function statementSheets(
  sql: Reader,
  accountIds: readonly number[],
  days: StatementDays,
): Promise<{ sheets: StatementSheet[]; size: 'A4' | 'LETTER' }> {
  const shop = await readShop(sql);
  const { sheet: size, howToPay } = await readAccountRules(sql);
  const { digits } = currencyOf(shop.currency);
  const day = (one: string) => formatDay(one, shop.receiptLocale);
  const found = await stated(sql, accountIds, days);
  const order = new Map(accountIds.map((id, at) => [id, at]));
  return {
    size,
    sheets: found
      .toSorted((a, b) => (order.get(a.account.id) ?? 0) - (order.get(b.account.id) ?? 0))
      .map(({ account, address, buyer, statement }) => ({
        shop: { name: shop.name, words: shop.receiptWords },
        address,
        number: account.number,
        from: day(days.from),
        to: day(days.to),
        statement,
        days: Object.fromEntries(statement.rows.map((row) => [row.day, day(row.day)])),
        buyer,
        howToPay,
        locale: shop.receiptLocale,
        digits,
        currency: shop.currency,
      })),
  };
}

/** The statement of an account as a list. @throws Problem 404 */
export async function statementCsv(sql: Reader, accountId: number, days: StatementDays): Promise<string> {
  const { timezone, currency } = await readShop(sql);
  const { statement } = await statedOne(sql, accountId, days);
  return csv(
    ['day', 'what', 'receipt', 'buyer', 'reference', 'words', 'amount', 'owed'],
    [
      [days.from, 'Owed before', null, null, null, null, null, { amount: statement.before }],
      ...statement.rows.map((row) => [
        row.day,
        ACCOUNT_ITEM_WORDS[row.kind],
        row.receipt,
        row.buyer,
        row.reference,
        row.words,
        { amount: row.amount },
        { amount: row.running },
      ]),
    ],
    { digits: currencyOf(currency).digits, timezone },
  );
}
