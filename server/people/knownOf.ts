import { plainAmount } from '../../core/books/accountingJournal.ts';
import { ACCOUNT_ITEM_WORDS } from '../../core/people/accountItemKinds.ts';
import { accountNumber } from '../../core/people/account.ts';
import { accountOf } from './accountStore.ts';
import { itemsUntil, type StatedItem } from './statementStore.ts';
import type { CustomerPage } from '../../contract/people.ts';
import type { Reader } from '../db/database.ts';
import { customerPage } from './records.ts';
import { salesOf, type KnownSale } from './knownStore.ts';
import { csv, type CsvCell, type CsvPlace } from '../csv.ts';

/** Everything that the shop knows of one person, for them. */
export interface Known extends Omit<CustomerPage, 'panel' | 'months' | 'open' | 'version'> {
  points: number;
  owes: number;
  credit: number;
  promises: CustomerPage['panel']['promises'];
  sales: KnownSale[];
  /** Their house account with what stands on it. */
  account: { number: string; limit: number; owed: number; items: StatedItem[] } | null;
}

/** What the shop knows of somebody. @throws Problem 404 */
export async function knownOf(sql: Reader, id: number, at: Date): Promise<Known> {
  const { panel, record, byRule, cards, moves, values, onFile, changes, addedAt, seenAt, mergedFrom } =
    await customerPage(sql, id, at);
  return {
    record,
    addedAt,
    seenAt,
    mergedFrom,
    points: panel.points,
    owes: panel.owes,
    credit: panel.credit,
    byRule,
    cards,
    moves,
    values,
    onFile,
    promises: panel.promises,
    sales: await salesOf(sql, panel.id),
    account: await knownAccount(sql, panel.id),
    changes,
  };
}

/** Somebody's house account with everything that ever stood on it. */
async function knownAccount(sql: Reader, customerId: number): Promise<Known['account']> {
  const account = await accountOf(sql, customerId);
  if (!account) return null;
  const { id, limit, owed } = account;
  return { number: accountNumber(id), limit, owed, items: await itemsUntil(sql, [id], '9999-12-31') };
}

/** The same as a list of facts: what it is, of when, and what it says. */
export function knownCsv(known: Known, place: CsvPlace): string {
  const { record, cards, moves, sales, changes, promises, account } = known;
  const rows: CsvCell[][] = [
    ...Object.entries(record).map(([what, value]) => [
      what,
      '',
      typeof value === 'object' ? JSON.stringify(value ?? '') : String(value),
    ]),
    ['points', '', known.points],
    ['owes', '', { amount: known.owes }],
    ['store credit', '', { amount: known.credit }],
    ...cards.map((card) => ['card', card.addedAt ? { at: card.addedAt } : '', card.code]),
    ...moves.map(({ at, amount, reason }) => ['points', { at }, `${amount} ${reason}`]),
    ...promises.map((promise) => ['waits', '', `${promise.number} ${promise.goods}`]),
    ...(account?.items ?? []).map((item) => [
      'house account',
      item.day,
      [
        ACCOUNT_ITEM_WORDS[item.kind],
        item.receipt,
        item.reference,
        item.words,
        plainAmount(item.amount, place.digits),
      ]
        .filter(Boolean)
        .join(', '),
    ]),
    ...sales.flatMap((sale) => [
      ['sale', { at: sale.at }, sale.number] as CsvCell[],
      ...sale.lines.map((line) => [`${sale.number}`, { at: sale.at }, line] as CsvCell[]),
      [`${sale.number} total`, { at: sale.at }, { amount: sale.total }] as CsvCell[],
    ]),
    ...changes.map(({ at, what, was, became }) => ['change', { at }, `${what}: ${was} → ${became}`]),
  ];
  return csv(['what', 'when', 'value'], rows, place);
}
