import { formatDay } from '../../core/locale.ts';
import type {
  CloseShift,
  ClosedShift,
  ClosedShiftView,
  Compare,
  Comparison,
  DrawerState,
  OpenDrawer,
} from '../../contract/drawer.ts';
import type { Person } from '../../contract/staff.ts';
import { planBag, planByHand, planTotal, type BagPlan } from '../../core/drawer/bagPlan.ts';
import { countedOf, worth, type Count, type Pieces } from '../../core/drawer/countSheet.ts';
import { openingOf } from '../../core/drawer/opening.ts';
import { expectedCash, variance } from '../../core/drawer/expectedCash.ts';
import {
  shiftReport,
  toCount,
  varianceWords,
  type ShiftTender,
  type TenderCount,
} from '../../core/drawer/shiftReport.ts';
import type { Paper } from '../../core/journal/paper.ts';
import { receiptNumber } from '../../core/journal/receiptNumber.ts';
import { closingEntries, openingEntries } from '../../core/books/entries.ts';
import { formatMoney } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { iso, saleDay, shopTime } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { addMessage } from '../outbox/store.ts';
import { readAfterSale } from '../shop/afterSaleStore.ts';
import { handoversOf } from './handoverStore.ts';
import { checkPieces, mayCloseFor } from './checks.ts';
import { leftOversOf } from './leftOvers.ts';
import { addPrintJob } from '../journal/printing/store.ts';
import { balanceOf, postEvent } from '../books/store.ts';
import { readShop, readTill } from '../shop/store.ts';
import * as corrections from './correctionStore.ts';
import * as store from './store.ts';

const cashOf = (tillId: number) => ['cash', `till:${tillId}`] as const;

/**
 * The drawer of a till as it stands now. Counted blindly, whoever may not see it is not told what is expected.
 * @param tillId another till's for whoever closes them at a desk
 * @throws Problem 403
 */
export async function drawerState(sql: Reader, person: Person, tillId: number): Promise<DrawerState> {
  mayCloseFor(person, tillId);
  const shift = await store.openShiftOf(sql, tillId);
  const left = await balanceOf(sql, ...cashOf(tillId));
  const { number } = await readTill(sql, tillId);
  const common = { till: { id: tillId, number }, noteBefore: await store.noteBefore(sql, tillId) };
  if (!shift) {
    return {
      ...common,
      blind: false,
      shift,
      left,
      movements: null,
      others: [],
      expected: left,
      salesCount: 0,
      leftOvers: [],
    };
  }
  const blind = await countsBlindly(sql, person);
  const movements = await store.movementsOf(sql, shift.id);
  const { count } = await store.salesOf(sql, shift.id);
  const others = (await store.paidWithOf(sql, shift.id)).filter(({ kind }) => kind !== 'cash');
  return {
    ...common,
    blind,
    shift,
    left: blind ? null : left,
    movements: blind ? null : movements,
    others: blind ? [] : others,
    expected: blind ? null : expectedCash(movements),
    salesCount: count,
    leftOvers: await leftOversOf(sql, tillId),
  };
}

/** Whether somebody counts without being told what is expected. */
export const countsBlindly = async (sql: Reader, { rights }: Person): Promise<boolean> =>
  (await readAfterSale(sql)).blindCount && !rights.includes('drawer.expected');

/**
 * Compares a count that stands with what is expected: that somebody looked, and what was counted then, is noted.
 * @throws Problem 403, 409 when the drawer is not open
 */
export async function compareCount(
  sql: Writer,
  person: Person,
  { tillId: other, ...count }: Compare,
  at: Date,
): Promise<Comparison> {
  const tillId = other ?? person.tillId;
  mayCloseFor(person, tillId);
  await takeLocks(sql, { tills: [tillId] });
  const shift = await openShift(sql, tillId);
  await checkCount(sql, count);
  const counted = countedOf(count);
  await corrections.noteCompared(sql, { staffId: person.staffId, tillId, shiftId: shift.id, counted, at });
  return {
    expected: expectedCash(await store.movementsOf(sql, shift.id)),
    others: (await store.paidWithOf(sql, shift.id)).filter(({ kind }) => kind !== 'cash'),
  };
}

/**
 * Opens the drawer with a counted float, or as it was left.
 * @throws Problem 409 when it is open, 422 where nothing was counted and the shop wants it to be
 */
export async function openDrawer(
  sql: Writer,
  person: Person,
  { pieces, fromSafe, asLeft = false }: OpenDrawer,
  at: Date,
): Promise<{ shiftId: number }> {
  const { tillId, staffId } = person;
  await takeLocks(sql, { tills: [tillId] });
  checkPieces(pieces, currencyOf((await readShop(sql)).currency));
  if (await store.openShiftOf(sql, tillId)) {
    throw new Problem('drawer-open', 'The drawer of this till is open already.');
  }
  const left = await balanceOf(sql, ...cashOf(tillId));
  if (asLeft && (!(await readAfterSale(sql)).openAsLeft || left <= 0))
    throw fieldProblem('pieces', 'Count what is in the drawer.');
  const opening = asLeft ? openingOf(left, left) : openingOf(worth(pieces), left, fromSafe);
  const shiftId = await store.addShift(sql, { tillId, staffId, pieces: asLeft ? {} : pieces, opening, at });
  await postEvent(sql, {
    kind: 'shift-opened',
    at,
    staffId,
    tillId,
    shiftId,
    entries: openingEntries({ tillId, ...opening }),
  });
  return { shiftId };
}

/** @throws Problem 422 where a count is not one, or is a total that the shop does not allow */
async function checkCount(sql: Reader, { pieces, total = null }: Count): Promise<void> {
  checkPieces(pieces, currencyOf((await readShop(sql)).currency));
  if (total === null) return;
  if (Object.keys(pieces).length > 0)
    throw fieldProblem('total', 'Count the pieces, or type one total: not both.');
  if (!(await readAfterSale(sql)).countAsTotal)
    throw fieldProblem('total', 'Count the drawer piece by piece.');
}

/** What stays and what goes to the bank. @throws Problem 422 where more is to stay than there is */
function bagPlanOf({ pieces, total = null, keep, float }: CloseShift): BagPlan {
  if (total !== null) return planTotal(total, float);
  if (!keep) return planBag(pieces, float);
  try {
    return planByHand(pieces, keep);
  } catch {
    throw fieldProblem('keep', 'More is to stay in the drawer than was counted.');
  }
}

/** Stores the count sheet as far as it is. @throws Problem 409 when it was changed in another window */
export async function saveCountSheet(
  sql: Writer,
  person: Person,
  { pieces, revision, tillId: other }: { pieces: Pieces; revision: number; tillId: number | null },
): Promise<{ revision: number }> {
  const tillId = other ?? person.tillId;
  mayCloseFor(person, tillId);
  const shift = await openShift(sql, tillId);
  checkPieces(pieces, currencyOf((await readShop(sql)).currency));
  const stored = await store.putCountSheet(sql, shift.id, pieces, revision);
  if (stored === undefined) {
    throw new Problem('count-changed', 'The count sheet was changed in another window.', {
      data: await store.openShiftOf(sql, tillId),
    });
  }
  return { revision: stored };
}

/**
 * Closes a shift: compares, plans the bag, books the variance and what goes to the bank, and asks for the report.
 * @throws Problem 409 `expected-changed` when cash has moved since the person looked
 */
export async function closeShift(
  sql: Writer,
  person: Person,
  wanted: CloseShift,
  at: Date,
): Promise<ClosedShift> {
  const { staffId } = person;
  const tillId = wanted.tillId ?? person.tillId;
  mayCloseFor(person, tillId);
  await takeLocks(sql, { tills: [tillId] });
  const shift = await openShift(sql, tillId);
  const currency = currencyOf((await readShop(sql)).currency);
  await checkCount(sql, wanted);
  const [open] = (await leftOversOf(sql, tillId)).filter(({ blocks }) => blocks || !wanted.keepHeld);
  if (open) {
    throw new Problem('left-over', 'Something is not finished yet.', {
      detail: `${open.words} Deal with it, then sign the drawer off.`,
    });
  }

  const movements = await store.movementsOf(sql, shift.id);
  const expected = expectedCash(movements);
  if (expected !== wanted.expected) {
    // Who counts blindly is told when comparing, which is noted.
    const told = !(await countsBlindly(sql, person));
    throw new Problem('expected-changed', 'Cash has moved since you compared. Compare again.', {
      ...(told && {
        detail: `Expected is now ${formatMoney(expected, currency.digits)}.`,
        data: { expected },
      }),
    });
  }
  const paidWith = await store.paidWithOf(sql, shift.id);
  const counts = countOthers(paidWith, wanted.others);
  const counted = countedOf(wanted);
  const difference = variance(counted, expected);
  const plan = bagPlanOf(wanted);
  await store.closeShift(
    sql,
    shift.id,
    {
      pieces: wanted.pieces,
      counted,
      expected,
      variance: difference,
      movements,
      sales: await store.salesOf(sql, shift.id),
      taxes: await store.taxesOf(sql, shift.id),
      openings: await store.countOpenings(sql, shift.id),
      reductions: await store.reductionsOf(sql, shift.id),
      paidWith,
      counts,
      donations: await store.donationsOf(sql, shift.id),
      undone: await store.undoneOf(sql, shift.id),
      deposits: await store.depositsOf(sql, shift.id),
      accounts: await store.accountMoneyOf(sql, shift.id),
      witness: wanted.witness,
      plan,
      bagNumber: wanted.bagNumber,
      note: wanted.note,
      signature: wanted.signature,
    },
    { staffId, at },
  );
  await postEvent(sql, {
    kind: 'shift-closed',
    at,
    staffId,
    tillId,
    shiftId: shift.id,
    entries: closingEntries({ tillId, variance: difference, banked: plan.banked }),
  });
  await addPrintJob(sql, { tillId: person.tillId, kind: 'shift-report', shiftId: shift.id, at });
  const { shortLimit, managersMail } = await readAfterSale(sql);
  if (0 - difference > shortLimit && managersMail) {
    await addMessage(sql, {
      kind: 'mail',
      recipient: managersMail,
      subject: `Drawer ${varianceWords(difference, currency.digits)}`,
      saleId: null,
      storedValueId: null,
      shiftId: shift.id,
      at,
    });
  }
  await tellOfDay(sql, shift.id, at);
  return { id: shift.id, number: shift.number, variance: difference, plan };
}

/** Once the last drawer is closed, whoever the shop names is told what the day was like. */
async function tellOfDay(sql: Writer, shiftId: number, at: Date): Promise<void> {
  const shop = await readShop(sql);
  if (!shop.summaryMail || (await store.openShifts(sql)) > 0) return;
  const day = saleDay(at, shop);
  await addMessage(sql, {
    kind: 'mail',
    recipient: shop.summaryMail,
    subject: `${shop.name}: ${formatDay(day, shop.receiptLocale)}`,
    saleId: null,
    storedValueId: null,
    shiftId,
    about: { kind: 'day', day },
    at,
  });
}

/** What was counted beside the cash. @throws Problem 422 where something that the shop counts was not */
function countOthers(paidWith: readonly ShiftTender[], others: CloseShift['others']): TenderCount[] {
  return paidWith
    .filter(({ kind, counted }) => counted && kind !== 'cash')
    .map((tender) => {
      const count = others.find(({ typeId }) => typeId === tender.typeId);
      if (!count) throw fieldProblem('others', `${tender.name} has to be counted, too.`);
      const { name, currency } = tender;
      return { name, currency, expected: toCount(tender), counted: count.counted };
    });
}

/** A closed shift with what became of it since. @throws Problem 404 */
export async function closedShiftView(sql: Reader, shiftId: number): Promise<ClosedShiftView> {
  const shift = await store.closedShift(sql, shiftId);
  if (!shift) throw new Problem('no-shift', 'There is no closed shift with this number.');
  const till = await readTill(sql, shift.tillId);
  return {
    id: shiftId,
    number: shift.number,
    till: till.number,
    closedBy: shift.closedBy,
    closedAt: iso(shift.closedAt),
    variance: shift.closing.variance,
    explained: await corrections.explainedOf(sql, shiftId),
    notes: (await corrections.varianceNotes(sql, shiftId)).map((note) => ({ ...note, at: iso(note.at) })),
    handovers: (await handoversOf(sql, shiftId)).map(({ at, from, to, counted, expected, note }) => ({
      at: iso(at),
      from,
      to,
      counted,
      expected,
      note,
    })),
    comparisons: await corrections.comparisonsOf(sql, shiftId),
    paper: await reportPaper(sql, shiftId),
  };
}

/** The report of a closed shift. @throws Problem 404 */
export async function reportPaper(sql: Reader, shiftId: number): Promise<Paper> {
  const shift = await store.closedShift(sql, shiftId);
  if (!shift) throw new Problem('no-shift', 'There is no closed shift with this number.');
  const shop = await readShop(sql);
  const till = await readTill(sql, shift.tillId);
  const { closing } = shift;
  const { first, last, count, total } = closing.sales;
  return shiftReport({
    shop: shop.name,
    place: till.place,
    till: `Till ${till.number}`,
    shiftNumber: shift.number,
    opened: shopTime(shift.openedAt, shop),
    openedBy: shift.openedBy,
    closed: shopTime(shift.closedAt, shop),
    closedBy: shift.closedBy,
    currency: currencyOf(shop.currency),
    salesCount: count,
    receipts:
      first === null || last === null
        ? null
        : { first: receiptNumber(till.number, first), last: receiptNumber(till.number, last) },
    salesTotal: total,
    openings: closing.openings,
    openingVariance: shift.openingVariance,
    paidWith: closing.paidWith ?? [],
    donations: closing.donations ?? [],
    deposits: closing.deposits ?? { paid: 0, used: 0, back: 0 },
    accounts: closing.accounts ?? { charged: 0, paid: 0, out: 0 },
    undone: closing.undone ?? { returns: 0, refunded: 0, voids: 0, voided: 0 },
    witness: closing.witness ?? null,
    counts: closing.counts ?? [],
    reductions: closing.reductions,
    kept: closing.plan.keep,
    keptAmount: closing.plan.kept,
    bag: closing.plan.bag,
    banked: closing.plan.banked,
    ...pick(closing),
  });
}

function pick({
  taxes,
  movements,
  expected,
  counted,
  variance: difference,
  pieces,
  bagNumber,
  note,
  signature,
}: store.Closing) {
  return { taxes, movements, expected, counted, variance: difference, pieces, bagNumber, note, signature };
}

/** @throws Problem 409 when the drawer of a till is not open */
export async function openShift(sql: Reader, tillId: number) {
  const shift = await store.openShiftOf(sql, tillId);
  if (!shift) throw new Problem('no-open-drawer', 'The drawer of this till is not open.');
  return shift;
}
