import { planBag } from '../core/drawer/bagPlan.ts';
import { worth, type Pieces } from '../core/drawer/countSheet.ts';
import { expectedCash } from '../core/drawer/expectedCash.ts';
import { sum, type Money } from '../core/money.ts';
import type { PricedBasket } from '../core/pricing/price.ts';
import type { Currency } from '../core/payment/currency.ts';
import type { Closing } from '../server/drawer/store.ts';
import { cashOf, type PastTender, type PastType } from './pastTenders.ts';

/** A past sale as its shift's report counts it. */
export interface RungUp {
  number: number;
  lines: readonly { quantity: number }[];
  priced: PricedBasket;
  tenders: readonly PastTender[];
  donation: Money;
  voided: boolean;
}

/** What is known of a past shift when it is closed. */
export interface PastDrawer {
  opening: Pieces;
  /** Counted minus expected. */
  variance: Money;
  float: Money;
  /** Who had it. */
  name: string;
  fund: string;
  types: readonly PastType[];
  currency: Currency;
}

/** What is kept of a past shift: the figures that closing one at a till keeps. */
export function pastClosing(rung: readonly RungUp[], drawer: PastDrawer): Closing {
  const { opening, variance, float, name, types, currency } = drawer;
  const sales = rung.filter(({ voided }) => !voided);
  const tenders = sales.flatMap((sale) => sale.tenders);
  const { taken, change, refunds } = cashOf(tenders);
  const movements = {
    float: worth(opening),
    cashTaken: taken,
    changeGiven: change,
    refunds,
    cashIn: 0,
    cashOut: 0,
    drops: 0,
  };
  const expected = expectedCash(movements);
  const pieces = piecesFor(expected + variance, currency);
  const paidWith = paidWithOf(tenders, types);
  const donated = sum(sales.map(({ donation }) => donation));
  return {
    pieces,
    counted: expected + variance,
    expected,
    variance,
    movements,
    sales: {
      count: sales.length,
      total: sum(sales.map(({ priced }) => priced.total)),
      first: sales.at(0)?.number ?? null,
      last: sales.at(-1)?.number ?? null,
    },
    taxes: taxesOf(sales),
    openings: 0,
    reductions: reductionsOf(sales, name),
    paidWith,
    counts: paidWith
      .filter(({ kind, counted }) => counted && kind !== 'cash')
      .map((tender) => ({
        name: tender.name,
        currency: tender.currency,
        expected: tender.amount,
        counted: tender.amount,
      })),
    donations: donated > 0 ? [{ fund: drawer.fund, amount: donated }] : [],
    undone: undoneOf(rung),
    plan: planBag(pieces, float),
    bagNumber: '',
    note: '',
    signature: { name, path: '' },
  };
}

function taxesOf(sales: readonly RungUp[]): Closing['taxes'] {
  const taxes = new Map<number, Closing['taxes'][number]>();
  for (const tax of sales.flatMap(({ priced }) => priced.taxes)) {
    const known = taxes.get(tax.rateId) ?? { ...tax, base: 0, tax: 0 };
    taxes.set(tax.rateId, { ...known, base: known.base + tax.base, tax: known.tax + tax.tax });
  }
  return [...taxes.values()].sort((a, b) => a.rateId - b.rateId);
}

function paidWithOf(
  tenders: readonly PastTender[],
  types: readonly PastType[],
): NonNullable<Closing['paidWith']> {
  return types.flatMap(({ id, name, kind, counted }) => {
    const mine = tenders.filter(({ typeId }) => typeId === id);
    if (mine.length === 0) return [];
    const amount = sum(mine.map((tender) => tender.amount));
    const count = mine.length;
    return { typeId: id, name, kind, counted, count, amount, tips: 0, foreignAmount: null, currency: null };
  });
}

function undoneOf(rung: readonly RungUp[]): NonNullable<Closing['undone']> {
  const voids = rung.filter(({ voided }) => voided);
  const returns = rung.filter(({ lines, voided }) => !voided && lines.some(({ quantity }) => quantity < 0));
  return {
    returns: returns.length,
    refunded: 0 - sum(returns.map(({ priced }) => priced.total)),
    voids: voids.length,
    voided: sum(voids.map(({ priced }) => priced.total)),
  };
}

/** What was taken off prices, as the shift's report lists it. */
function reductionsOf(sales: readonly RungUp[], person: string): Closing['reductions'] {
  const found = new Map<string, Closing['reductions'][number]>();
  const records = sales.flatMap(({ lines, priced }) =>
    priced.lines.flatMap((line, at) => ((lines[at]?.quantity ?? 0) > 0 ? line.records : [])),
  );
  for (const { kind, why, amount } of records) {
    const key = `${kind} ${why}`;
    const known = found.get(key) ?? { kind, reason: why, person, count: 0, amount: 0 };
    found.set(key, { ...known, count: known.count + 1, amount: known.amount + amount });
  }
  return [...found.values()].sort((a, b) => a.kind.localeCompare(b.kind) || a.amount - b.amount);
}

/** An amount in as few pieces as it takes. */
export function piecesFor(amount: Money, { pieces }: Currency): Pieces {
  let left = amount;
  const counted: Record<number, number> = {};
  for (const { value } of pieces.toSorted((a, b) => b.value - a.value)) {
    const count = Math.floor(left / value);
    if (count > 0) counted[value] = count;
    left -= count * value;
  }
  return counted;
}
