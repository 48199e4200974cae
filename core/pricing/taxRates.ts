import type { TaxRate } from './tax.ts';

/** A rate as it is from a day on. A rate of zero means that the tax ends. */
export interface DatedRate extends TaxRate {
  /** The tax category it belongs to. */
  category: number;
  /** The first day, `YYYY-MM-DD`; it begins at midnight. */
  from: string;
}

/**
 * The rates that are due on a day, by tax category: of each named tax the last one that has begun.
 * @param day `YYYY-MM-DD` on the shop's calendar
 */
export function ratesOn(rates: readonly DatedRate[], day: string): Record<number, TaxRate[]> {
  const begun = new Map<string, DatedRate>();
  for (const rate of rates) {
    const key = `${rate.category} ${rate.name}`;
    const other = begun.get(key);
    if (rate.from <= day && (!other || other.from < rate.from)) begun.set(key, rate);
  }
  const byCategory: Record<number, TaxRate[]> = {};
  for (const { category, id, name, rate } of begun.values()) {
    if (rate > 0) (byCategory[category] ??= []).push({ id, name, rate });
  }
  return byCategory;
}
