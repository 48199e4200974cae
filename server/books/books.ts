import { LEDGER_PAGE, type BooksQuery, type LedgerPage, type TrialBalance } from '../../contract/books.ts';
import { csv, type CsvCell } from '../csv.ts';
import { ACCOUNT_CLASSES, LEDGER_EVENT_WORDS } from '../../core/books/accounts.ts';
import { accountingJournal, type BookedEvent } from '../../core/books/accountingJournal.ts';
import { sum } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { iso } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import { readShop } from '../shop/store.ts';
import * as store from './booksStore.ts';

/** So many events are read at a time: an export never holds up other questions for long. */
const STRETCH = 2000;

/** Every account with what moved in it in some days; debits and credits come to the same. */
export async function trialBalance(
  sql: Reader,
  days: Pick<BooksQuery, 'from' | 'to'>,
): Promise<TrialBalance> {
  const { timezone } = await readShop(sql);
  const balances = await store.balances(sql, days, timezone);
  const wordsOf = await store.wordsFor(sql, balances);
  const rows = balances.map((row) => ({
    ...row,
    class: ACCOUNT_CLASSES[row.account],
    words: wordsOf(row),
  }));
  return { rows, debit: sum(rows.map(({ debit }) => debit)), credit: sum(rows.map(({ credit }) => credit)) };
}

/** Events of the books with their entries, newest first. */
export async function ledgerPage(sql: Reader, query: BooksQuery): Promise<LedgerPage> {
  const { timezone } = await readShop(sql);
  const events = await store.ledgerEvents(sql, query, timezone, LEDGER_PAGE, query.page * LEDGER_PAGE);
  const wordsOf = await store.wordsFor(
    sql,
    events.flatMap(({ entries }) => entries),
  );
  return {
    events: events.map(({ about, ...event }) => ({
      ...event,
      at: iso(event.at),
      words: LEDGER_EVENT_WORDS[event.kind] + about,
      entries: event.entries.map((entry) => ({ ...entry, words: wordsOf(entry) })),
    })),
    count: await store.countEvents(sql, query, timezone),
  };
}

/**
 * Reads events in stretches. @param ask asks the database for one stretch, so that others get their turn between them
 */
async function allEvents(
  ask: <T>(work: (sql: Reader) => Promise<T>) => Promise<T>,
  days: Pick<BooksQuery, 'from' | 'to'>,
): Promise<BookedEvent[]> {
  const { timezone } = await ask(readShop);
  const all: BookedEvent[] = [];
  for (let last = 0; ;) {
    const after = last;
    const stretch = await ask((sql) => store.eventsAfter(sql, days, timezone, after, STRETCH));
    all.push(...stretch);
    last = stretch.at(-1)?.id ?? last;
    if (stretch.length < STRETCH) return all;
  }
}

type Ask = Parameters<typeof allEvents>[0];

/** The books as a plain-text accounting journal. */
export async function booksJournal(ask: Ask, days: Pick<BooksQuery, 'from' | 'to'>): Promise<string> {
  const { currency, name } = await ask(readShop);
  const { digits } = currencyOf(currency);
  return accountingJournal(await allEvents(ask, days), { currency, digits, shop: name });
}

/** The books as comma-separated values, one line for each entry. */
export async function booksCsv(ask: Ask, days: Pick<BooksQuery, 'from' | 'to'>): Promise<string> {
  const { currency, timezone } = await ask(readShop);
  const { digits } = currencyOf(currency);
  const events = await allEvents(ask, days);
  return csv(
    ['event', 'day', 'what', 'account', 'about', 'debit', 'credit'],
    events.flatMap(({ id, day, words, entries }) =>
      entries.map(({ account, subject, amount }): CsvCell[] => [
        id,
        day,
        words,
        account,
        subject,
        amount > 0 ? { amount } : null,
        amount < 0 ? { amount: 0 - amount } : null,
      ]),
    ),
    { digits, timezone },
  );
}
