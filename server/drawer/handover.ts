import type { HandOver } from '../../contract/drawer.ts';
import type { Person } from '../../contract/staff.ts';
import { worth } from '../../core/drawer/countSheet.ts';
import { expectedCash } from '../../core/drawer/expectedCash.ts';
import { handoverSlip } from '../../core/drawer/handoverSlip.ts';
import type { Paper } from '../../core/journal/paper.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { shopTime } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { addPrintJob } from '../journal/printing/store.ts';
import { readShop } from '../shop/store.ts';
import { checkPieces } from './checks.ts';
import * as handovers from './handoverStore.ts';
import * as store from './store.ts';

/**
 * Hands the drawer to the next person without closing it: what is in it is counted and noted, with a slip for both.
 * @param id of the hand over; asking again hands over once
 */
export async function handOver(
  sql: Writer,
  person: Person,
  id: string,
  { pieces, toStaffId, note }: HandOver,
  at: Date,
): Promise<{ counted: number; expected: number }> {
  const { tillId, staffId } = person;
  await takeLocks(sql, { tills: [tillId] });
  const shift = await store.openShiftOf(sql, tillId);
  if (!shift) throw new Problem('no-open-drawer', 'The drawer of this till is not open.');
  if (toStaffId === staffId) throw fieldProblem('toStaffId', 'To whom? Choose somebody else.');
  const people = await handovers.peopleToHandTo(sql, staffId);
  if (!people.some((one) => one.id === toStaffId))
    throw fieldProblem('toStaffId', 'There is no such person.');
  checkPieces(pieces, currencyOf((await readShop(sql)).currency));
  const expected = expectedCash(await store.movementsOf(sql, shift.id));
  const counted = worth(pieces);
  await handovers.addHandover(sql, {
    id,
    shiftId: shift.id,
    at,
    fromStaffId: staffId,
    toStaffId,
    pieces,
    counted,
    expected,
    note,
  });
  await addPrintJob(sql, { tillId, kind: 'handover-slip', handoverId: id, at });
  return { counted, expected };
}

/** The slip of a hand over. */
export async function handoverPaper(sql: Reader, id: string): Promise<Paper> {
  const row = await handovers.handover(sql, id);
  const shop = await readShop(sql);
  return handoverSlip({
    ...row,
    shop: shop.name,
    till: `Till ${row.till}`,
    when: shopTime(row.at, shop),
    currency: currencyOf(shop.currency),
  });
}
