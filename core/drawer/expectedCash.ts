import type { Money } from '../money.ts';

/** Everything that moved cash into or out of a drawer during a shift. All amounts are positive. */
export interface CashMovements {
  float: Money;
  cashTaken: Money;
  changeGiven: Money;
  refunds: Money;
  cashIn: Money;
  cashOut: Money;
  drops: Money;
}

/** Expected cash = float + cash taken − change − cash refunds + cash in − cash out − drops. */
export function expectedCash(moves: CashMovements): Money {
  return (
    moves.float +
    moves.cashTaken -
    moves.changeGiven -
    moves.refunds +
    moves.cashIn -
    moves.cashOut -
    moves.drops
  );
}

/** Counted minus expected: below zero is short, above is over. */
export function variance(counted: Money, expected: Money): Money {
  return counted - expected;
}
