import { multiplyDivide, sum, type Money } from '../money.ts';
import { WHOLE, type Rate } from '../rate.ts';

/** Whether prices are without tax (`on-top`) or contain it (`inside`). */
export type TaxMode = 'on-top' | 'inside';

/** Whether tax is rounded once per rate for the sale, or on every line. */
export type TaxRounding = 'sale' | 'line';

export interface TaxRate {
  id: number;
  name: string;
  rate: Rate;
}

export interface TaxableLine {
  /** What the line costs after all reductions, as priced: without tax on top, with tax inside. */
  net: Money;
  /** The rates of its tax category; empty when no tax is due. */
  rates: readonly TaxRate[];
}

/** Tax of one rate: on the whole sale or on one line. */
export interface TaxAmount {
  rateId: number;
  name: string;
  rate: Rate;
  /** What the rate was applied to, without tax. */
  base: Money;
  tax: Money;
}

export interface TaxResult {
  /** Per rate, in the order in which the rates first occur. */
  totals: TaxAmount[];
  /** Per line, one entry for each of its rates. */
  lines: TaxAmount[][];
}

interface Share {
  line: number;
  rate: TaxRate;
  /** The exact tax is `net × rate ÷ divisor`. */
  divisor: number;
}

/**
 * Computes sales tax on net amounts.
 *
 * On top, the exact tax of a line is `net × rate`; inside, `net × rate ÷ (1 + all rates of the line)`.
 * With rounding `sale`, each rate is rounded half away from zero once and spread back over its lines by
 * largest remainder of the exact taxes (ties to the earlier line); with `line`, each line is rounded.
 * The lines' taxes always add up to the totals.
 */
export function computeTax(lines: readonly TaxableLine[], mode: TaxMode, rounding: TaxRounding): TaxResult {
  const byRate = new Map<number, Share[]>();
  lines.forEach(({ rates }, line) => {
    const divisor = mode === 'on-top' ? WHOLE : WHOLE + sum(rates.map(({ rate }) => rate));
    for (const rate of rates) {
      const shares = byRate.get(rate.id);
      if (shares) shares.push({ line, rate, divisor });
      else byRate.set(rate.id, [{ line, rate, divisor }]);
    }
  });

  const taxes: TaxAmount[][] = lines.map(() => []);
  const totals: TaxAmount[] = [];
  for (const [rateId, shares] of byRate) {
    const nets = shares.map(({ line }) => lines[line]?.net ?? 0);
    const parts = rounding === 'line' ? roundEach(nets, shares) : roundOnce(nets, shares);
    const first = shares[0];
    if (!first) continue;
    const { name, rate } = first.rate;
    shares.forEach(({ line }, at) => {
      taxes[line]?.push({ rateId, name, rate, base: nets[at] ?? 0, tax: parts[at] ?? 0 });
    });
    totals.push({ rateId, name, rate, base: sum(nets), tax: sum(parts) });
  }
  if (mode === 'inside') takeTaxOutOfBases(lines, taxes, totals);
  return { totals, lines: taxes };
}

/** Tax amounts added up per rate, in the order in which the rates first occur. */
export function addTaxes(amounts: readonly TaxAmount[]): TaxAmount[] {
  const byRate = new Map<number, TaxAmount>();
  for (const amount of amounts) {
    const known = byRate.get(amount.rateId);
    if (known)
      byRate.set(amount.rateId, { ...known, base: known.base + amount.base, tax: known.tax + amount.tax });
    else byRate.set(amount.rateId, { ...amount });
  }
  return [...byRate.values()];
}

function roundEach(nets: readonly Money[], shares: readonly Share[]): Money[] {
  return shares.map(({ rate, divisor }, at) => multiplyDivide(nets[at] ?? 0, rate.rate, divisor));
}

/** Rounds the exact sum once, then hands out what the rounded-down parts lack, largest remainder first. */
function roundOnce(nets: readonly Money[], shares: readonly Share[]): Money[] {
  const divisors = new Set(shares.map((share) => share.divisor));
  const common = [...divisors].reduce((product, divisor) => product * BigInt(divisor), 1n);
  const scaled = shares.map(({ rate, divisor }, at) => {
    const exactTax = BigInt(nets[at] ?? 0) * BigInt(rate.rate) * (common / BigInt(divisor));
    const below = floorDivide(exactTax, common);
    return { at, below, rest: exactTax - below * common, exactTax };
  });
  const whole = scaled.reduce((total, { exactTax }) => total + exactTax, 0n);
  const parts = scaled.map(({ below }) => Number(below));
  let left = Number(roundHalfAway(whole, common)) - sum(parts);
  const byRest = scaled.toSorted((a, b) => (a.rest === b.rest ? a.at - b.at : a.rest < b.rest ? 1 : -1));
  for (const { at } of byRest) {
    if (left <= 0) break;
    parts[at] = (parts[at] ?? 0) + 1;
    left -= 1;
  }
  return parts;
}

function floorDivide(a: bigint, b: bigint): bigint {
  const quotient = a / b;
  return a % b < 0n ? quotient - 1n : quotient;
}

function roundHalfAway(value: bigint, divisor: bigint): bigint {
  const size = value < 0n ? -value : value;
  const whole = (2n * size + divisor) / (2n * divisor);
  return value < 0n ? -whole : whole;
}

/** Inside prices hold the tax of all rates of the line; the base shown is what is left without them. */
function takeTaxOutOfBases(lines: readonly TaxableLine[], taxes: TaxAmount[][], totals: TaxAmount[]): void {
  const bases = new Map(totals.map(({ rateId }) => [rateId, 0]));
  lines.forEach(({ net }, line) => {
    const ofLine = taxes[line] ?? [];
    const base = net - sum(ofLine.map(({ tax }) => tax));
    for (const amount of ofLine) {
      amount.base = base;
      bases.set(amount.rateId, (bases.get(amount.rateId) ?? 0) + base);
    }
  });
  for (const total of totals) total.base = bases.get(total.rateId) ?? 0;
}
