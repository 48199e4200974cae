import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { refundsFor, type SoldLine } from '../journal/returns.ts';
import { priceBasket, type FixedFigures, type LineToPrice, type PricedLine } from './price.ts';

const rules = { taxMode: 'on-top', taxRounding: 'sale' } as const;
const rates = [{ id: 1, name: 'Sales tax', rate: 75_000 }];

const sold = (line: PricedLine, quantity: number): SoldLine => ({
  ...line,
  position: 1,
  quantity,
  back: { quantity: 0, net: 0, taxes: [] },
});

/** Swaps all of a sold line for goods of another price: what is to pay, and the line as it was sold then. */
function swap(line: SoldLine, unitPrice: number, to: number): { total: number; taken: SoldLine } {
  const [refund] = refundsFor([line], [{ position: 1, quantity: line.quantity }]);
  if (!refund) throw new Error('nothing comes back');
  const figures: FixedFigures = { ...refund, unitPrice };
  const lines: LineToPrice[] = [
    { id: 'back', quantity: refund.quantity, listPrice: unitPrice, rates, refund: figures },
    { id: 'taken', quantity: line.quantity, listPrice: to, rates, swaps: figures },
  ];
  const priced = priceBasket(lines, rules);
  const taken = priced.lines[1];
  if (!taken) throw new Error('nothing was taken');
  expect(taken.regular + sum(taken.records.map(({ amount }) => amount))).toBe(taken.net);
  return { total: priced.total, taken: sold(taken, line.quantity) };
}

describe('a swap within a family', () => {
  const bought = fc.record({
    units: fc.integer({ min: 1, max: 9 }),
    price: fc.integer({ min: 1, max: 20_000 }),
    part: fc.integer({ min: 0, max: 1_000_000 }),
    other: fc.integer({ min: 1, max: 20_000 }),
  });
  const lineOf = ({ units, price, part }: { units: number; price: number; part: number }): SoldLine => {
    const discounts = [
      { id: 'd', lineIds: null, size: { kind: 'percent' as const, rate: Math.max(1, part) }, reason: 'Off' },
    ];
    const [line] = priceBasket(
      [{ id: 'a', quantity: units * 1000, listPrice: price, rates }],
      rules,
      discounts,
    ).lines;
    if (!line) throw new Error('nothing was sold');
    return sold(line, units * 1000);
  };

  it('costs nothing where the regular price is the same, whatever was taken off', () => {
    fc.assert(
      fc.property(bought, (one) => {
        const line = lineOf(one);
        const { total, taken } = swap(line, one.price, one.price);
        expect(total).toBe(0);
        expect([taken.net, taken.regular]).toEqual([line.net, line.regular]);
        expect(taken.taxes.map(({ tax }) => tax)).toEqual(line.taxes.map(({ tax }) => tax));
      }),
    );
  });

  it('leaves nothing when it is swapped back', () => {
    fc.assert(
      fc.property(bought, (one) => {
        const line = lineOf(one);
        const there = swap(line, one.price, one.other);
        const back = swap(there.taken, one.other, one.price);
        expect(back.total + there.total).toBe(0);
        expect(back.taken.net).toBe(line.net);
        expect(there.taken.net).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  it('charges or gives back the difference of the regular prices only', () => {
    const line = lineOf({ units: 1, price: 2790, part: 200_000 });
    expect(swap(line, 2790, 2790).total).toBe(0);
    expect(swap(line, 2790, 3190).total).toBe(430);
    expect(swap(line, 2790, 2390).total).toBe(-430);
  });
});
