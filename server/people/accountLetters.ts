import { formatDay } from '../../core/locale.ts';
import type { Paper } from '../../core/journal/paper.ts';
import type { ReceiptHead } from '../../core/journal/receipt.ts';
import { formatMoneyIn, type Money } from '../../core/money.ts';
import { overdueOf } from '../../core/people/accountAge.ts';
import { accountNumber } from '../../core/people/account.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { instant } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import type { AboutAccount } from '../outbox/store.ts';
import { readShop, type ShopRow } from '../shop/store.ts';
import { accountById, openItems, readAccountRules } from './accountStore.ts';
import { statementSheets, statementView } from './statements.ts';

/** The days that a letter tells of: a reminder tells of the last three months. */
function daysOf(about: AboutAccount) {
  if (about.kind === 'statement') return about;
  const from = instant(about.day).minus({ months: 3 }).toISODate() ?? about.day;
  return { from, to: about.day, buyer: null };
}

/** The sheets that go with a letter about an account. */
export const sheetsOfLetter = (sql: Reader, accountId: number, about: AboutAccount) =>
  statementSheets(sql, [accountId], daysOf(about));

/** What a mail about an account says: what is owed, what of it is overdue, and how to pay. */
export async function accountLetter(
  sql: Reader,
  accountId: number,
  about: AboutAccount,
  head: (shop: ShopRow) => ReceiptHead,
): Promise<Paper> {
  const shop = await readShop(sql);
  const account = await accountById(sql, accountId);
  if (!account) throw new Error('an account is gone');
  const { howToPay } = await readAccountRules(sql);
  const { digits } = currencyOf(shop.currency);
  const money = (amount: Money) => `${formatMoneyIn(shop.receiptLocale, amount, digits)} ${shop.currency}`;
  const day = (one: string) => formatDay(one, shop.receiptLocale);
  const { name, words } = head(shop);
  const number = accountNumber(accountId);
  const rows: Paper['rows'] = [
    { kind: 'title', text: name },
    ...words.map((text) => ({ kind: 'centre' as const, text })),
    { kind: 'gap' },
    { kind: 'pair', left: `House account ${number}`, right: account.name },
    { kind: 'rule' },
  ];
  if (about.kind === 'statement') {
    const { statement } = await statementView(sql, accountId, about);
    rows.push(
      { kind: 'pair', left: `Owed before ${day(about.from)}`, right: money(statement.before) },
      { kind: 'pair', left: 'Charged', right: money(statement.charged) },
      { kind: 'pair', left: 'Paid', right: money(0 - statement.paid) },
      { kind: 'pair', left: `Owed on ${day(about.to)}`, right: money(statement.after), strong: true },
    );
  } else {
    const overdue = overdueOf(await openItems(sql, [accountId]), about.day);
    rows.push(
      {
        kind: 'text',
        text:
          about.step === 1
            ? 'It may have slipped your mind: a part of what you owe should have been paid by now.'
            : `This is reminder ${about.step}. Please pay what is overdue, or talk to us.`,
      },
      { kind: 'pair', left: 'Overdue', right: money(overdue), strong: true },
      { kind: 'pair', left: 'Owed in all', right: money(account.owed) },
    );
  }
  if (howToPay) rows.push({ kind: 'gap' }, { kind: 'text', text: howToPay.replaceAll('{number}', number) });
  return { title: about.kind === 'statement' ? `Statement ${number}` : `Reminder ${number}`, rows };
}
