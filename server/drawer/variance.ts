import type { CorrectTender, Explain, TerminalTotal, VarianceFound } from '../../contract/drawer.ts';
import type { Person } from '../../contract/staff.ts';
import { countedOf, type Pieces } from '../../core/drawer/countSheet.ts';
import { expectedCash } from '../../core/drawer/expectedCash.ts';
import { explainVariance, type Explanation, type ShiftEvent } from '../../core/drawer/varianceFinder.ts';
import { correctionProblem } from '../../core/journal/afterTheSale.ts';
import { correctionEntries, explainedEntries } from '../../core/books/entries.ts';
import { formatMoney, sum } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { TerminalUnreachable } from '../../devices/terminal/driver.ts';
import type { Reader, Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { postEvent } from '../books/store.ts';
import { readShop } from '../shop/store.ts';
import { mayCloseFor } from './checks.ts';
import * as corrections from './correctionStore.ts';
import * as store from './store.ts';
import { habitsOf, recordedByTerminal, shiftEvents } from './varianceStore.ts';

/** What terminals say that they have taken in a shift, beside what was recorded of them. */
export async function terminalTotals(
  house: House,
  shiftId: number,
  openedAt: string,
): Promise<TerminalTotal[]> {
  const recorded = await house.database.ask((sql) => recordedByTerminal(sql, shiftId));
  const serials = [...new Set(recorded.map(({ serial }) => serial))];
  return Promise.all(
    serials.map(async (serial): Promise<TerminalTotal> => {
      const mine = recorded.filter((one) => one.serial === serial);
      const names = new Map(mine.map((one) => [one.reference, one.amount]));
      const said = await house.terminal.list(serial, openedAt).then(
        (answers) =>
          sum(
            answers
              .filter(({ reference, state }) => names.has(reference) && state === 'approved')
              .map(({ reference, amount, tip, roundUp }) =>
                (names.get(reference) ?? 0) < 0 ? 0 - amount : amount + tip + roundUp,
              ),
          ),
        (error: unknown) => {
          if (error instanceof TerminalUnreachable) return null;
          throw error;
        },
      );
      return { terminal: mine[0]?.name ?? serial, recorded: sum(mine.map(({ amount }) => amount)), said };
    }),
  );
}

/** The likeliest explanations of what an open drawer differs by, as it is counted now. */
export async function explainOpenDrawer(
  house: House,
  person: Person,
  wanted: Explain,
): Promise<VarianceFound> {
  const tillId = wanted.tillId ?? person.tillId;
  mayCloseFor(person, tillId);
  const { database } = house;
  const shift = await database.ask((sql) => store.openShiftOf(sql, tillId));
  if (!shift) throw new Problem('no-open-drawer', 'The drawer of this till is not open.');
  const { movements, others } = await database.ask(async (sql) => ({
    movements: await store.movementsOf(sql, shift.id),
    others: await store.paidWithOf(sql, shift.id),
  }));
  // What was counted of cards on other terminals, against what was recorded.
  const noted = others.filter(({ kind }) => kind === 'noted-card');
  const counts = noted.flatMap(({ typeId, amount }) => {
    const count = wanted.others.find((one) => one.typeId === typeId);
    return count ? [count.counted - amount] : [];
  });
  const typed = wanted.others.filter(({ typeId }) => !noted.some((one) => one.typeId === typeId));
  const notedTypes = await database.ask((sql) => corrections.notedCardTypes(sql));
  const unrecorded = typed.filter(({ typeId }) => notedTypes.includes(typeId)).map(({ counted }) => counted);
  const terminalOff = counts.length + unrecorded.length > 0 ? sum([...counts, ...unrecorded]) : null;
  return database.ask((sql) =>
    explain(sql, shift.id, countedOf(wanted) - expectedCash(movements), wanted.pieces, terminalOff),
  );
}

/** The same for a shift that was closed, by its report. */
export async function explainClosedShift(sql: Reader, shiftId: number): Promise<VarianceFound> {
  const shift = await store.closedShift(sql, shiftId);
  if (!shift) throw new Problem('no-shift', 'There is no closed shift with this number.');
  const { variance, pieces, counts = [], paidWith = [] } = shift.closing;
  const noted = paidWith.filter(({ kind }) => kind === 'noted-card').map(({ name }) => name);
  const cards = counts.filter(({ name }) => noted.includes(name));
  const off = cards.length > 0 ? sum(cards.map(({ expected, counted }) => counted - expected)) : null;
  return explain(sql, shiftId, variance, pieces, off);
}

async function explain(
  sql: Reader,
  shiftId: number,
  variance: number,
  counted: Pieces,
  terminalOff: number | null,
): Promise<VarianceFound> {
  const currency = currencyOf((await readShop(sql)).currency);
  const events = await shiftEvents(sql, shiftId);
  const explanations = explainVariance({
    variance,
    events,
    counted,
    pieces: currency.pieces,
    habits: await habitsOf(sql, shiftId),
    terminalOff,
    digits: currency.digits,
  });
  return { explanations: explanations.map((one) => ({ ...one, links: linksOf(one, events) })) };
}

function linksOf({ eventIds }: Explanation, events: readonly ShiftEvent[]): { name: string; to: string }[] {
  return eventIds.flatMap((id) => {
    const event = events.find((one) => one.id === id);
    const [saleId] = id.split(':');
    return event && id.includes(':') ? [{ name: event.name, to: `/journal/${saleId ?? ''}` }] : [];
  });
}

/**
 * Records that a payment of the open shift was cash and not card, or the other way round. The sale's own record stays.
 * @param id of the correction; asking again corrects once
 */
export async function correctTender(
  sql: Writer,
  person: Person,
  id: string,
  { saleId, position, to, reason }: CorrectTender,
  at: Date,
): Promise<void> {
  const tillId = await corrections.tillOfSale(sql, saleId);
  if (tillId === undefined) throw new Problem('no-tender', 'There is no such payment.');
  mayCloseFor(person, tillId);
  await takeLocks(sql, { tills: [tillId], payments: [saleId], sales: [saleId] });
  const found = await corrections.tenderToCorrect(sql, saleId, position);
  if (!found) throw new Problem('no-tender', 'There is no such payment.');
  const problem = correctionProblem(found, { ...found, to });
  if (problem) throw new Problem('cannot-correct', problem);
  const from = found.kind === 'cash' ? 'cash' : 'card';
  const target = await corrections.correctionType(sql, to);
  if (target === undefined) throw fieldProblem('to', 'The shop has no such means of payment.');
  await corrections.addCorrection(sql, {
    id,
    at,
    shiftId: found.shiftId,
    saleId,
    position,
    from: found.typeId,
    to: target,
    amount: found.amount,
    reason,
    staffId: person.staffId,
  });
  const side = (kind: 'cash' | 'card', typeId: number) =>
    kind === 'cash'
      ? { kind: 'cash' as const, subject: '' }
      : { kind: 'noted-card' as const, subject: `tender:${typeId}` };
  await postEvent(sql, {
    kind: 'correction',
    at,
    staffId: person.staffId,
    tillId: found.tillId,
    shiftId: found.shiftId,
    correctionId: id,
    entries: correctionEntries({
      tillId: found.tillId,
      from: side(from, found.typeId),
      to: side(to, target),
      amount: found.amount,
    }),
  });
}

/**
 * Notes what a difference of a closed shift was, and books it there: what was short went out as petty cash, what was
 * over came in. @param id of the note; asking again notes once
 */
export async function noteVariance(
  sql: Writer,
  person: Person,
  shiftId: number,
  id: string,
  { amount, reason }: { amount: number; reason: string },
  at: Date,
): Promise<void> {
  const shift = await store.closedShift(sql, shiftId);
  if (!shift) throw new Problem('no-shift', 'There is no closed shift with this number.');
  await takeLocks(sql, { tills: [shift.tillId] });
  const explained = await corrections.explainedOf(sql, shiftId);
  const left = shift.closing.variance - explained;
  if (left === 0 || amount / left < 0 || Math.abs(amount) > Math.abs(left)) {
    const { digits } = currencyOf((await readShop(sql)).currency);
    throw fieldProblem('amount', `${formatMoney(left, digits)} is not explained yet: no more than that.`);
  }
  await corrections.addVarianceNote(sql, { id, shiftId, at, amount, reason, staffId: person.staffId });
  await postEvent(sql, {
    kind: 'correction',
    at,
    staffId: person.staffId,
    tillId: shift.tillId,
    shiftId,
    entries: explainedEntries({ tillId: shift.tillId, amount }),
  });
}
