import { csv, type CsvCell } from '../csv.ts';
import type { CardPage } from '../../contract/cardPayments.ts';
import type { Person } from '../../contract/staff.ts';
import { settlementEntries } from '../../core/books/entries.ts';
import { sum } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { TerminalUnreachable, type SettlementBatch } from '../../devices/terminal/driver.ts';
import type { Reader } from '../db/database.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { postEvent } from '../books/store.ts';
import { readShop } from '../shop/store.ts';
import {
  addSettlement,
  lastBatch,
  listCards,
  listTerminals,
  sumCards,
  type BookedEntry,
  type CardFilter,
} from './store.ts';

const PAGE = 100;

/** Card payments, newest first. @param page from 0 */
export async function cardPage(sql: Reader, filter: CardFilter, page: number): Promise<CardPage> {
  return { rows: await listCards(sql, filter, PAGE, page * PAGE), ...(await sumCards(sql, filter)) };
}

/** All that are found, as comma-separated values. */
export async function cardCsv(sql: Reader, filter: CardFilter): Promise<string> {
  const { currency, timezone } = await readShop(sql);
  const { digits } = currencyOf(currency);
  const rows = await listCards(sql, filter, 1_000_000, 0);
  return csv(
    [
      'at',
      'till',
      'terminal',
      'state',
      'amount',
      'tip',
      'round-up',
      'brand',
      'last four',
      'kind',
      'entry',
      'approval',
      'reference',
      'receipt',
      'settlement',
    ],
    rows.map((row): CsvCell[] => [
      { at: row.at },
      row.till,
      row.terminal,
      row.state,
      { amount: row.amount },
      { amount: row.tip },
      { amount: row.roundUp },
      row.brand,
      row.lastFour,
      row.cardKind,
      row.entry,
      row.approval,
      row.id,
      row.sale ?? '',
      row.settled ?? '',
    ]),
    { digits, timezone },
  );
}

/**
 * Ends the day of a terminal: what the bank pays out is taken into the books, payment by payment.
 * @throws Problem 503 when the terminal cannot be reached
 */
export async function settle(
  house: House,
  person: Person,
  terminalId: number,
): Promise<{ count: number; gross: number; fees: number }> {
  const { database, terminal: driver } = house;
  const terminal = (await database.ask(listTerminals)).find(({ id }) => id === terminalId);
  if (!terminal) throw new Problem('no-terminal', 'There is no such terminal.');
  const last = await database.ask((sql) => lastBatch(sql, terminalId));
  const batches = await driver.settle(terminal.serial, last).catch((error: unknown) => {
    if (error instanceof TerminalUnreachable) throw new Problem('unreachable', error.message);
    throw error;
  });
  const paid = { count: 0, gross: 0, fees: 0 };
  for (const batch of batches) {
    const { count, gross, fees } = await bookBatch(house, person, terminalId, batch);
    paid.count += count;
    paid.gross += gross;
    paid.fees += fees;
  }
  return paid;
}

/** Takes a batch into the books; two people who settle at once book it once. */
async function bookBatch(
  { database, clock }: House,
  { staffId }: Person,
  terminalId: number,
  batch: SettlementBatch,
): Promise<{ count: number; gross: number; fees: number }> {
  const entries = batch.entries.map(({ reference, amount, tip, roundUp, refund, fee }): BookedEntry => ({
    reference,
    amount: (amount + tip + roundUp) * (refund ? -1 : 1),
    fee,
  }));
  const gross = sum(entries.map(({ amount }) => amount));
  const fees = sum(entries.map(({ fee }) => fee));
  await database.write(async (sql) => {
    const { number, at } = batch;
    if (!(await addSettlement(sql, { terminalId, number, at, gross, fees, staffId }, entries))) return;
    await postEvent(sql, {
      kind: 'settlement',
      at: clock.now(),
      staffId,
      entries: settlementEntries({ terminalId, gross, fees }),
    });
  });
  return { count: entries.length, gross, fees };
}
