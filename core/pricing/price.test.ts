import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { priceBasket, type LineToPrice } from './price.ts';
import { spread } from '../spread.ts';
import { computeTax, type TaxRate } from './tax.ts';

const general: TaxRate = { id: 1, name: 'Sales tax', rate: 75_000 };
const printed: TaxRate = { id: 2, name: 'Printed music tax', rate: 25_000 };

describe('spread', () => {
  it('gives odd cents to the largest remainders, then to the earlier line', () => {
    expect(spread(100, [1, 1, 1])).toEqual([34, 33, 33]);
    expect(spread(10, [100, 300, 600])).toEqual([1, 3, 6]);
    expect(spread(-5, [1, 1])).toEqual([-3, -2]);
  });

  it('gives everything to the first line where all weights are zero', () => {
    expect(spread(3, [0, 0])).toEqual([3, 0]);
    expect(() => spread(3, [])).toThrow(RangeError);
    expect(() => spread(3, [-1, 4])).toThrow(RangeError);
  });

  it('adds up, and takes no line below zero', () => {
    const weights = fc.array(fc.integer({ min: 0, max: 10_000_000 }), { minLength: 1, maxLength: 60 });
    fc.assert(
      fc.property(weights, fc.double({ min: 0, max: 1, noNaN: true }), (list, part) => {
        const total = sum(list);
        const amount = Math.floor(total * part);
        const parts = spread(amount, list);
        expect(sum(parts)).toBe(amount);
        parts.forEach((share, at) => {
          expect(share).toBeGreaterThanOrEqual(0);
          expect(share).toBeLessThanOrEqual(list[at] ?? 0);
        });
      }),
    );
  });
});

describe('computeTax', () => {
  it('rounds once for the sale', () => {
    const lines = Array.from({ length: 3 }, () => ({ net: 99, rates: [general] }));
    const { totals, lines: parts } = computeTax(lines, 'on-top', 'sale');
    expect(totals).toEqual([{ rateId: 1, name: 'Sales tax', rate: 75_000, base: 297, tax: 22 }]);
    expect(parts.map(([part]) => part?.tax)).toEqual([8, 7, 7]);
    expect(computeTax(lines, 'on-top', 'line').totals[0]?.tax).toBe(21);
  });

  it('takes the tax out of prices that contain it', () => {
    const { totals } = computeTax([{ net: 10_750, rates: [general] }], 'inside', 'sale');
    expect(totals).toEqual([{ rateId: 1, name: 'Sales tax', rate: 75_000, base: 10_000, tax: 750 }]);
  });

  it('takes two rates of one category out together', () => {
    const { totals } = computeTax([{ net: 11_000, rates: [general, printed] }], 'inside', 'sale');
    expect(totals.map(({ tax, base }) => [tax, base])).toEqual([
      [750, 10_000],
      [250, 10_000],
    ]);
  });

  it('adds up over lines and rates, whatever the mode, the rounding and the signs', () => {
    const line = fc.record({
      net: fc.integer({ min: -500_000, max: 500_000 }),
      rates: fc.constantFrom([], [general], [printed], [general, printed]),
    });
    fc.assert(
      fc.property(
        fc.array(line, { maxLength: 40 }),
        fc.constantFrom('on-top' as const, 'inside' as const),
        fc.constantFrom('sale' as const, 'line' as const),
        (lines, mode, rounding) => {
          const { totals, lines: parts } = computeTax(lines, mode, rounding);
          for (const total of totals) {
            const mine = parts.flat().filter(({ rateId }) => rateId === total.rateId);
            expect(sum(mine.map(({ tax }) => tax))).toBe(total.tax);
            expect(sum(mine.map(({ base }) => base))).toBe(total.base);
          }
          parts.flat().forEach(({ tax, rate, base }) => {
            const exact = (base * rate) / 1_000_000;
            expect(Math.abs(tax - exact)).toBeLessThanOrEqual(1.2);
          });
          if (mode !== 'inside') return;
          lines.forEach(({ net, rates }, at) => {
            if (rates.length === 0) return;
            expect((parts[at]?.[0]?.base ?? 0) + sum((parts[at] ?? []).map(({ tax }) => tax))).toBe(net);
          });
        },
      ),
    );
  });
});

const lineToPrice: fc.Arbitrary<LineToPrice> = fc.record({
  id: fc.uuid(),
  quantity: fc.integer({ min: 1, max: 50_000 }),
  listPrice: fc.integer({ min: 0, max: 900_000 }),
  typedPrice: fc.option(
    fc.record({ unitPrice: fc.integer({ min: 0, max: 900_000 }), reason: fc.constant('agreed') }),
    {
      nil: undefined,
    },
  ),
  rates: fc.constantFrom([], [general], [printed]),
});
const rules = { taxMode: 'on-top', taxRounding: 'sale' } as const;

describe('priceBasket', () => {
  it('prices the basket of the demo shop', () => {
    const priced = priceBasket(
      [
        { id: 'a', quantity: 2500, listPrice: 420, rates: [general] },
        { id: 'b', quantity: 1000, listPrice: 1290, rates: [printed] },
        { id: 'c', quantity: 1000, listPrice: 3200, rates: [] },
      ],
      rules,
    );
    expect(priced.regular).toBe(5540);
    expect(priced.taxes.map(({ base, tax }) => [base, tax])).toEqual([
      [1050, 79],
      [1290, 32],
    ]);
    expect(priced.total).toBe(5651);
  });

  it('has records that add up to the difference between regular and final price', () => {
    fc.assert(
      fc.property(fc.array(lineToPrice, { maxLength: 30 }), (lines) => {
        const priced = priceBasket(lines, rules);
        for (const { regular, net, records } of priced.lines) {
          expect(regular + sum(records.map(({ amount }) => amount))).toBe(net);
        }
        expect(priced.regular + priced.reductions).toBe(sum(priced.lines.map(({ net }) => net)));
        expect(priced.total).toBe(
          priced.regular + priced.reductions + sum(priced.taxes.map(({ tax }) => tax)),
        );
      }),
    );
  });

  it('does not depend on the order in which lines were rung up', () => {
    fc.assert(
      fc.property(fc.array(lineToPrice, { minLength: 1, maxLength: 20 }), fc.nat(), (lines, by) => {
        const at = by % lines.length;
        const turned = [...lines.slice(at), ...lines.slice(0, at)];
        const byRate = (list: readonly LineToPrice[]) =>
          priceBasket(list, rules)
            .taxes.map(({ rateId, tax }) => `${rateId}:${tax}`)
            .sort();
        expect(priceBasket(turned, rules).total).toBe(priceBasket(lines, rules).total);
        expect(byRate(turned)).toEqual(byRate(lines));
      }),
    );
  });

  it('takes a typed price before the one on the label, that before the group price, and that only where it is lower', () => {
    const rules = { taxMode: 'on-top', taxRounding: 'sale' } as const;
    const line = { id: 'a', quantity: 2000, listPrice: 1000, rates: [] };
    const groupPrice = { unitPrice: 850, group: 'Teachers' };
    const [only] = priceBasket([{ ...line, groupPrice }], rules).lines;
    expect([only?.unitPrice, only?.net, only?.records]).toEqual([
      850,
      1700,
      [{ kind: 'group-price', amount: -300, why: 'Teachers' }],
    ]);
    const kinds = (more: Partial<LineToPrice>) =>
      priceBasket([{ ...line, groupPrice, ...more }], rules).lines[0]?.records.map(({ kind, amount }) => [
        kind,
        amount,
      ]);
    expect(kinds({ label: { amount: 1900 } })).toEqual([['label-price', -100]]);
    expect(kinds({ label: { amount: 2000 } })).toEqual([]);
    expect(kinds({ label: { amount: 1900 }, typedPrice: { unitPrice: 500, reason: 'worn' } })).toEqual([
      ['typed-price', -1000],
    ]);
    expect(kinds({ groupPrice: { unitPrice: 1200, group: 'Teachers' } })).toEqual([]);
  });
});
