import type { Person } from '../../contract/staff.ts';
import { wrongPieces, type Pieces } from '../../core/drawer/countSheet.ts';
import { formatMoney } from '../../core/money.ts';
import type { Currency } from '../../core/payment/currency.ts';
import { mayActFor } from '../../core/staff/rights.ts';
import { fieldProblem, Problem } from '../http/problem.ts';

/** @throws Problem 403 where another till's drawer is meant and the person may not */
export function mayCloseFor(person: Person, tillId: number): void {
  if (mayActFor(person, tillId)) return;
  throw new Problem('not-allowed', `${person.name} may not count the drawers of other tills.`);
}

/** @throws Problem 422 on a piece that the currency does not have */
export function checkPieces(pieces: Pieces, currency: Currency): void {
  const [wrong] = wrongPieces(pieces, currency);
  if (wrong === undefined) return;
  const value = Number(wrong);
  const known = currency.pieces.some((piece) => piece.value === value);
  throw fieldProblem(
    `pieces.${wrong}`,
    known
      ? `How many pieces of ${formatMoney(value, currency.digits)}? A whole number, please.`
      : `${currency.name} has no piece of ${formatMoney(value || 0, currency.digits)}.`,
  );
}
