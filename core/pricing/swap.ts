import { sum, type Money } from '../money.ts';
import type { FixedFigures, PriceRecord } from './priceRecord.ts';
import type { TaxAmount, TaxRate } from './tax.ts';

const NOT_BELOW_ZERO = 'Not below zero';

/** A line that is taken in exchange for one of the same family. */
export interface SwappedFigures {
  records: PriceRecord[];
  net: Money;
  /** What is taxed anew: the difference, or all of it where other rates apply. */
  taxed: Money;
  /** Taxes that go over from the line that comes back. */
  taxes: TaxAmount[];
}

/**
 * What goods cost that are taken in exchange: everything that was taken off the goods that come back is taken off them,
 * so that only the difference of the regular prices is paid or given back. Swapped back, nothing is left of it.
 * @param back what comes back; its amounts are below zero
 */
export function swappedFigures(
  regular: Money,
  back: FixedFigures,
  rates: readonly TaxRate[],
): SwappedFigures {
  const records = back.records
    .filter(({ kind, why }) => kind !== 'return' || why !== NOT_BELOW_ZERO)
    .map(({ kind, amount, why }): PriceRecord => ({ kind, why, amount: 0 - amount }));
  const left = regular + sum(records.map(({ amount }) => amount));
  if (left < 0) records.push({ kind: 'return', amount: 0 - left, why: NOT_BELOW_ZERO });
  const net = Math.max(0, left);
  const sameRates =
    back.taxes.length === rates.length &&
    back.taxes.every(({ rateId, rate }) => rates.some((one) => one.id === rateId && one.rate === rate));
  return {
    records,
    net,
    taxed: sameRates ? net + back.net : net,
    taxes: sameRates ? back.taxes.map((tax) => ({ ...tax, base: 0 - tax.base, tax: 0 - tax.tax })) : [],
  };
}
