import type { CashMove } from '../../contract/drawer.ts';
import type { Person } from '../../contract/staff.ts';
import { CASH_MOVES, cashMoveStep, cashSlip } from '../../core/drawer/cashMove.ts';
import { expectedCash } from '../../core/drawer/expectedCash.ts';
import { openingSlip, openingStep } from '../../core/drawer/openingSlip.ts';
import type { Paper } from '../../core/journal/paper.ts';
import { cashMoveEntries } from '../../core/books/entries.ts';
import { formatMoney } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { shopTime } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { addPrintJob } from '../journal/printing/store.ts';
import { postEvent } from '../books/store.ts';
import { readShop, readTill } from '../shop/store.ts';
import { approvalFor } from '../staff/approval.ts';
import { countsBlindly, openShift } from './service.ts';
import * as store from './store.ts';

/**
 * Opens the drawer without a sale, with a slip that says why. @param id of the opening; asking again opens once
 * @throws Problem 403 `countersign-needed` when the person may not and nobody approved it
 */
export async function openWithoutSale(
  sql: Writer,
  person: Person,
  id: string,
  { reason, countersign }: { reason: string; countersign?: string | undefined },
  at: Date,
): Promise<void> {
  const { tillId, staffId } = person;
  const shift = await openShift(sql, tillId);
  const countersignId = await approvalFor(sql, person, {
    about: id,
    countersign,
    right: 'drawer.no-sale',
    step: openingStep(reason),
    at,
  });
  await store.addOpening(sql, { id, at, tillId, shiftId: shift.id, reason, staffId, countersignId });
  await addPrintJob(sql, { tillId, kind: 'drawer-opening', openingId: id, openDrawer: true, at });
}

/**
 * Moves cash without a sale, with its ledger entries and a slip. @param id of the move; asking again moves once
 * @throws Problem 403 `countersign-needed`, 422 when more would go out than is in the drawer
 */
export async function moveCash(
  sql: Writer,
  person: Person,
  id: string,
  { countersign, ...move }: CashMove,
  at: Date,
): Promise<void> {
  const { tillId, staffId } = person;
  await takeLocks(sql, { tills: [tillId] });
  const shift = await openShift(sql, tillId);
  const { right } = CASH_MOVES[move.kind];
  const countersignId = await approvalFor(sql, person, {
    about: id,
    countersign,
    right,
    step: cashMoveStep(move),
    at,
  });
  const expected = expectedCash(await store.movementsOf(sql, shift.id));
  if (move.kind !== 'in' && move.amount > expected) {
    if (await countsBlindly(sql, person))
      throw fieldProblem('amount', 'There is less than that in the drawer.');
    const { digits } = currencyOf((await readShop(sql)).currency);
    throw fieldProblem('amount', `Only ${formatMoney(expected, digits)} is expected to be in the drawer.`);
  }
  await store.addCashMove(sql, {
    ...move,
    ...(countersignId === null ? {} : { countersign: countersignId }),
    id,
    at,
    tillId,
    shiftId: shift.id,
    staffId,
  });
  await postEvent(sql, {
    kind: 'cash-move',
    at,
    staffId,
    tillId,
    shiftId: shift.id,
    cashMoveId: id,
    entries: cashMoveEntries({ tillId, ...move }),
  });
  await addPrintJob(sql, { tillId, kind: 'cash-slip', cashMoveId: id, openDrawer: true, at });
}

/** The slip of cash that moved without a sale. @throws Problem 404 */
export async function cashMovePaper(sql: Reader, id: string): Promise<Paper> {
  const move = await store.findCashMove(sql, id);
  if (!move) throw new Problem('no-cash-move', 'No cash was moved then.');
  const shop = await readShop(sql);
  const till = await readTill(sql, move.tillId);
  return cashSlip({
    ...move,
    shop: shop.name,
    till: `Till ${till.number}`,
    when: shopTime(move.at, shop),
    digits: currencyOf(shop.currency).digits,
  });
}

/** The slip of a drawer that was opened without a sale. @throws Problem 404 */
export async function openingPaper(sql: Reader, id: string): Promise<Paper> {
  const opening = await store.findOpening(sql, id);
  if (!opening) throw new Problem('no-opening', 'The drawer was not opened then.');
  const shop = await readShop(sql);
  const till = await readTill(sql, opening.tillId);
  return openingSlip({
    shop: shop.name,
    till: `Till ${till.number}`,
    when: shopTime(opening.at, shop),
    by: opening.by,
    approvedBy: opening.approvedBy,
    reason: opening.reason,
  });
}
