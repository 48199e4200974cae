import { DateTime } from 'luxon';
import { CsvError } from 'csv-parse';
import type { BankLineView } from '../../contract/accounts.ts';
import { accountNumber } from '../../core/people/account.ts';
import { bankColumns, guessAccount, type BankAccount, type BankLine } from '../../core/people/bankLines.ts';
import { parseMoney } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { Reader, Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { readShop, shopToday } from '../shop/store.ts';
import { takeBankPayment, type By } from './accounts.ts';
import { listAccounts } from './accountListStore.ts';
import * as accounts from './accountStore.ts';
import * as store from './bankLineStore.ts';
import { linesOf } from '../imports/list.ts';

/** What came of a bank's list. */
export interface BankListTaken {
  added: number;
  /** Lines that were there before. */
  known: number;
  /** Lines that are no money that came in: paid out, or without an amount. */
  passed: number;
}

async function* whole(text: string): AsyncGenerator<string> {
  await Promise.resolve();
  yield text;
}

/** A day as a bank writes it: `2026-03-02`, or as it is written where the shop is. */
function dayOf(text: string, locale: string): string | null {
  const found = [
    DateTime.fromISO(text),
    DateTime.fromFormat(text, 'D', { locale }),
    DateTime.fromFormat(text, 'dd.MM.yyyy'),
  ].find(({ isValid }) => isValid);
  return found?.toISODate() ?? null;
}

/** Takes the lines of a bank's list that are money that came in; each line once. @throws Problem 422 */
export async function takeBankList(sql: Writer, content: string, by: By): Promise<BankListTaken> {
  const { currency, locale } = await readShop(sql);
  const { digits } = currencyOf(currency);
  const today = await shopToday(sql, by.at);
  const lines: BankLine[] = [];
  let passed = 0;
  let columns: ReturnType<typeof bankColumns> | null = null;
  try {
    for await (const { line, cells } of linesOf(whole(content))) {
      if (!columns) {
        columns = bankColumns(cells);
        if (columns.day === undefined || columns.amount === undefined)
          throw fieldProblem('csv', 'Its first line names no columns “Date” and “Amount”.');
        continue;
      }
      const cell = (at: number | undefined) => (at === undefined ? '' : (cells[at] ?? ''));
      const amount = parseMoney(cell(columns.amount).replaceAll(/[^\d.,\-−’' ]/g, ''), digits);
      if (amount === null || amount <= 0) {
        passed += 1;
        continue;
      }
      const day = dayOf(cell(columns.day), locale);
      if (!day || day > today)
        throw fieldProblem('csv', `Line ${line}: “${cell(columns.day)}” is no day that has been.`);
      lines.push({
        day,
        amount,
        payer: cell(columns.payer).slice(0, 200),
        words: cell(columns.words).slice(0, 500),
      });
    }
  } catch (error) {
    if (error instanceof CsvError)
      throw fieldProblem('csv', 'The file cannot be read: a quote does not end.');
    throw error;
  }
  if (!columns) throw fieldProblem('csv', 'The file is empty.');
  const added = await store.addLines(sql, lines, by);
  return { added, known: lines.length - added, passed };
}

/** Lines that wait to be booked, with whose account each is likely for, and those that were booked last. */
export async function bankLines(sql: Reader): Promise<BankLineView[]> {
  const lines = await store.readLines(sql);
  const known = lines.some(({ state }) => state === 'open') ? await bankAccounts(sql) : [];
  return lines.map((line) => ({ ...line, guess: line.state === 'open' ? guessAccount(line, known) : null }));
}

/** Accounts on which something is open, as lines are matched with them. */
async function bankAccounts(sql: Reader): Promise<BankAccount[]> {
  const owing = await listAccounts(sql, { find: '', show: 'all', page: 0 }, '2000-01-01', true);
  const open = accounts.byAccount(
    await accounts.openItems(
      sql,
      owing.map(({ id }) => id),
    ),
  );
  return owing.map(({ id, name, owed }) => ({
    id,
    name,
    owed,
    number: accountNumber(id),
    open: open.get(id) ?? [],
  }));
}

/** Books a line to an account, once. @throws Problem 404, 409 */
export async function bookLine(sql: Writer, lineId: number, accountId: number, by: By): Promise<void> {
  const line = await takeLine(sql, lineId);
  const { amount, day, payer, words } = line;
  const said = [payer, words].filter(Boolean).join(': ').slice(0, 200);
  const itemId = await takeBankPayment(
    sql,
    accountId,
    { amount, day, words: said, items: await pickedFor(sql, accountId, line) },
    by,
  );
  await store.bookedLine(sql, lineId, itemId);
}

/** Charges that a line names by their receipts: they are paid first. */
const pickedFor = (sql: Reader, accountId: number, { words, payer }: BankLine): Promise<number[]> =>
  store.chargesNamed(sql, accountId, `${payer} ${words}`);

/** Puts a line away: it is for no account. @throws Problem 404, 409 */
export async function dropLine(sql: Writer, lineId: number): Promise<void> {
  await takeLine(sql, lineId);
  await store.droppedLine(sql, lineId);
}

async function takeLine(sql: Writer, lineId: number): Promise<store.StoredLine> {
  const line = await store.lockLine(sql, lineId);
  if (!line) throw new Problem('not-found', 'There is no such line.');
  if (line.state !== 'open') throw new Problem('refused', 'This line was booked or put away meanwhile.');
  return line;
}
