import { counted } from '../../core/locale.ts';
import { randomInt } from 'node:crypto';
import { csv, type CsvCell } from '../csv.ts';
import { certificateRows, type CertificateRow } from './certificateRows.ts';
import type { NewCertificate, StoredValuePage, StoredValueView } from '../../contract/giftCards.ts';
import { newCertificateSchema } from '../../contract/giftCards.ts';
import type { Person } from '../../contract/staff.ts';
import { storedValueEntries } from '../../core/books/entries.ts';
import { parseMoney, sum } from '../../core/money.ts';
import {
  isMistyped,
  lastFour,
  newStoredValueNumber,
  plainNumber,
  storedValueProblem,
} from '../../core/giftCards/storedValue.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { businessDate, instant, iso } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import type { Trier } from '../staff/tries.ts';
import { takeLocks } from '../db/locks.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { postEvent } from '../books/store.ts';
import { readShop } from '../shop/store.ts';
import { paymentFacts } from '../tenders/store.ts';
import * as store from './store.ts';

const PAGE = 100;

async function viewer(sql: Reader, at: Date) {
  const { timezone } = await readShop(sql);
  const today = businessDate(at, timezone);
  const { dormantMonths } = await paymentFacts(sql, 0);
  const quiet = dormantMonths === null ? null : new Date(at);
  quiet?.setMonth(quiet.getMonth() - (dormantMonths ?? 0));
  return (row: store.StoredValueRow): StoredValueView => ({
    ...row,
    issuedAt: iso(row.issuedAt),
    usedAt: iso(row.usedAt),
    dormant:
      quiet !== null && row.state === 'active' && row.balance > 0 && instant(row.usedAt).toJSDate() < quiet,
    problem: storedValueProblem(
      { ...row, usedOn: businessDate(instant(row.usedAt).toJSDate(), timezone) },
      today,
    ),
  });
}

/** Whether somebody may see whole numbers: they are as good as money. */
const seesNumbers = ({ rights }: Person): boolean => rights.includes('gift-card.manage');

/**
 * Gift cards, certificates and store credit, newest first, with what is owed for all that are found. @param page from
 * 0
 */
export async function storedValuePage(
  sql: Reader,
  person: Person,
  filter: Omit<store.ValueFilter, 'parts'>,
  page: number,
  at: Date,
): Promise<StoredValuePage> {
  const view = await viewer(sql, at);
  // Part of a number finds nothing for who may not see whole ones: it would be guessed digit by digit.
  const found = { ...filter, parts: seesNumbers(person) };
  const rows = await store.listValues(sql, found, PAGE, page * PAGE);
  return { rows: rows.map((row) => shown(person, view(row))), ...(await store.sumValues(sql, found)) };
}

/** A card as somebody may see it. */
const shown = (person: Person, view: StoredValueView): StoredValueView =>
  seesNumbers(person) ? view : { ...view, number: `·· ${lastFour(view.number)}` };

const unknownNumber = (number: string): Problem =>
  new Problem(
    'no-card',
    isMistyped(number) ? 'The number is not right: type it again.' : 'There is no card with this number.',
  );

/**
 * Says whether a number may be tried: those that nobody knows make the till and the address wait longer with each, as
 * PINs do. @throws Problem 429, or 404 with words where nobody knows it
 */
export async function mayTryNumber({ database, tries }: House, trier: Trier, typed: string): Promise<void> {
  const number = plainNumber(typed);
  // A number with a wrong check digit was misread: nobody guesses like that.
  if (!number || isMistyped(number)) return;
  const tried = await tries.attempt(trier, () =>
    database.ask(async (sql) => ((await store.isKnown(sql, number)) ? true : null)),
  );
  if ('found' in tried || tried.judged) return;
  const { wait } = tried;
  throw new Problem('wait', `Too many unknown numbers. Wait ${counted(wait, 'second')}.`, {
    data: { seconds: wait },
  });
}

/** What is on a card, by its number. @throws Problem 404 with words, 429 while one has to wait */
export async function enquire(house: House, trier: Trier, typed: string): Promise<StoredValueView> {
  const number = plainNumber(typed);
  await mayTryNumber(house, trier, typed);
  return house.database.ask(async (sql) => {
    const row = await store.findValue(sql, { number });
    if (!row) throw unknownNumber(number);
    return (await viewer(sql, house.clock.now()))(row);
  });
}

/** One of them with its history. @throws Problem 404 */
export async function storedValueHistory(sql: Reader, person: Person, id: number, at: Date) {
  const value = await find(sql, id);
  const moves = await store.movesOf(sql, id);
  return {
    value: shown(person, (await viewer(sql, at))(value)),
    moves: moves.map((move) => ({ ...move, at: iso(move.at) })),
  };
}

async function find(sql: Reader, id: number): Promise<store.StoredValueRow> {
  const row = await store.findValue(sql, { id });
  if (!row) throw new Problem('no-card', 'There is no such card.');
  return row;
}

/** A number that no card has. */
export async function freshNumber(sql: Reader): Promise<string> {
  for (;;) {
    const number = newStoredValueNumber(() => randomInt(10));
    if (!(await store.isKnown(sql, number))) return number;
  }
}

/** A lost card cannot be used from now on; found again, it can. */
export async function setFrozen(sql: Writer, id: number, frozen: boolean): Promise<void> {
  await takeLocks(sql, { values: [id] });
  const { state, held } = await find(sql, id);
  if (state === 'closed') throw new Problem('closed', 'Nothing is left on it any more.');
  if (frozen && held > 0) throw new Problem('held', 'It is being paid with just now. Try again in a moment.');
  await store.setState(sql, id, frozen ? 'frozen' : 'active');
}

/**
 * Moves what is left on a lost card to a new one. @param typed number of the new card, or nothing for one that is
 * made up
 */
export async function moveCard(
  sql: Writer,
  person: Person,
  id: number,
  typed: string,
  at: Date,
): Promise<{ id: number; number: string }> {
  await takeLocks(sql, { values: [id] });
  const old = await find(sql, id);
  if (old.balance === 0) throw new Problem('closed', 'Nothing is left on it.');
  if (old.held > 0) throw new Problem('held', 'It is being paid with just now. Try again in a moment.');
  const number = plainNumber(typed) || (await freshNumber(sql));
  if (isMistyped(number)) throw fieldProblem('number', 'The number is not right: type it again.');
  const fresh = await store.addValue(sql, {
    number,
    amount: old.balance,
    expiresOn: '',
    singleUse: false,
    kind: old.kind,
    // Whose store credit it is must be known from the start.
    customerId: old.kind === 'store-credit' ? await store.customerOf(sql, id) : null,
    at,
  });
  if (fresh === undefined) throw fieldProblem('number', 'This number is taken. Scan another card.');
  await store.inherit(sql, id, fresh);
  const { staffId } = person;
  await store.moveValue(sql, { id, kind: 'moved out', amount: 0 - old.balance, staffId, at });
  await store.moveValue(sql, { id: fresh, kind: 'moved in', amount: old.balance, staffId, at });
  await store.setState(sql, id, 'closed', fresh);
  return { id: fresh, number };
}

const TAKEN = 'There is a certificate or card of this number already.';

/**
 * Takes paper certificates of an earlier year into the books, in one event.
 * @returns their numbers in the list; where the number of one is taken there is nothing in its place, and what was
 * begun must not be kept
 */
async function takeOver(
  sql: Writer,
  { staffId }: Person,
  certificates: readonly NewCertificate[],
  at: Date,
): Promise<(number | undefined)[]> {
  const added = await store.addValues(
    sql,
    certificates.map((one) => ({ ...one, kind: 'certificate' as const })),
    at,
  );
  const ids = certificates.map(({ number }) => {
    const id = added.get(plainNumber(number));
    // Another one of the list may have the same.
    added.delete(plainNumber(number));
    return id;
  });
  if (ids.includes(undefined)) return ids;
  const moves = certificates.map(({ amount }, place) => ({ id: ids[place] ?? 0, amount }));
  await store.moveValues(sql, 'opening', moves, { staffId, at });
  await postEvent(sql, {
    kind: 'stored-value',
    at,
    staffId,
    entries: storedValueEntries({
      kind: 'certificate',
      amount: sum(moves.map(({ amount }) => amount)),
      against: 'opening-balance',
    }),
  });
  return ids;
}

/** Takes a paper certificate of an earlier year into the books. @throws Problem 422 when its number is taken */
export async function addCertificate(
  sql: Writer,
  person: Person,
  certificate: NewCertificate,
  at: Date,
): Promise<number> {
  const [id] = await takeOver(sql, person, [certificate], at);
  if (id === undefined) throw fieldProblem('number', TAKEN);
  return id;
}

/**
 * Takes a list of certificates into the books, whole or not at all.
 * @param text number, amount, and optionally the last day (2027-12-31) and `once`, under their headings or in this
 * order
 * @throws Problem 422 that names the line
 */
export async function importCertificates(
  sql: Writer,
  person: Person,
  text: string,
  at: Date,
): Promise<{ count: number; amount: number }> {
  const { currency } = await readShop(sql);
  const { digits } = currencyOf(currency);
  const rows = certificateRows(text);
  const wrong = ({ line, number }: CertificateRow, words: string) =>
    fieldProblem('csv', `${line}, ${number}: ${words}`);
  const certificates = rows.map((row): NewCertificate => {
    const amount = parseMoney(row.amount, digits);
    if (amount === null || amount <= 0)
      throw fieldProblem('csv', `${row.line}: ${row.amount || 'nothing'} is no amount.`);
    try {
      return newCertificateSchema.validateSync({
        number: row.number,
        amount,
        expiresOn: row.expires,
        singleUse: /^(once|single|yes|1)$/i.test(row.once),
      });
    } catch (error) {
      throw wrong(row, (error as Error).message);
    }
  });
  if (certificates.length === 0) throw fieldProblem('csv', 'There is no certificate in it.');
  const taken = rows[(await takeOver(sql, person, certificates, at)).indexOf(undefined)];
  if (taken) throw wrong(taken, TAKEN);
  return { count: certificates.length, amount: sum(certificates.map(({ amount }) => amount)) };
}

/** All that are found, as comma-separated values. */
export async function storedValueCsv(sql: Reader, filter: Omit<store.ValueFilter, 'parts'>): Promise<string> {
  const { currency, timezone } = await readShop(sql);
  const { digits } = currencyOf(currency);
  const rows = await store.listValues(sql, { ...filter, parts: true }, 1_000_000, 0);
  return csv(
    ['number', 'kind', 'state', 'balance', 'expires', 'issued', 'last used', 'customer'],
    rows.map((row): CsvCell[] => [
      row.number,
      row.kind,
      row.state,
      { amount: row.balance },
      row.expiresOn ?? '',
      { at: iso(row.issuedAt) },
      { at: iso(row.usedAt) },
      row.customer ?? '',
    ]),
    { digits, timezone },
  );
}

/** What has expired is written off: the books owe it no more. @returns how many */
export async function writeOffExpired(
  sql: Writer,
  person: Person,
  at: Date,
): Promise<{ count: number; amount: number }> {
  const { timezone } = await readShop(sql);
  const today = businessDate(at, timezone);
  const expired = (
    await store.listValues(sql, { find: '', kind: '', state: 'active', parts: true }, 1_000_000, 0)
  ).filter(
    ({ expiresOn, balance, held, kind }) =>
      expiresOn !== null && expiresOn < today && balance > 0 && held === 0 && kind !== 'store-credit',
  );
  await takeLocks(sql, { values: expired.map(({ id }) => id) });
  // Somebody began to pay with one of them meanwhile, or has used it up.
  const lapsing = (
    await store.findValues(
      sql,
      expired.map(({ id }) => id),
    )
  ).filter(({ balance, held }) => balance > 0 && held === 0);
  const amount = sum(lapsing.map(({ balance }) => balance));
  if (amount === 0) return { count: 0, amount };
  const { staffId } = person;
  await store.moveValues(
    sql,
    'expired',
    lapsing.map(({ id, balance }) => ({ id, amount: 0 - balance })),
    { staffId, at },
  );
  await store.closeValues(
    sql,
    lapsing.map(({ id }) => id),
  );
  await postEvent(sql, {
    kind: 'stored-value',
    at,
    staffId,
    entries: [...new Set(lapsing.map(({ kind }) => kind))].flatMap((kind) =>
      storedValueEntries({
        kind,
        amount: 0 - sum(lapsing.map((one) => (one.kind === kind ? one.balance : 0))),
        against: 'lapsed-value',
      }),
    ),
  });
  return { count: lapsing.length, amount };
}
