import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { currencyOf } from '../payment/currency.ts';
import { planBag, planByHand, planTotal } from './bagPlan.ts';
import { without, worth, wrongPieces, type Pieces } from './countSheet.ts';
import { expectedCash, variance } from './expectedCash.ts';
import { piecesWords, varianceWords } from './shiftReport.ts';

const usd = currencyOf('USD');

describe('count sheet', () => {
  it('adds up pieces', () => {
    expect(worth({ 10000: 2, 25: 3 })).toBe(20_075);
    expect(without({ 100: 5, 25: 1 }, { 100: 5 })).toEqual({ 25: 1 });
  });

  it('knows which pieces there are', () => {
    expect(wrongPieces({ 100: 3 }, usd)).toEqual([]);
    expect(wrongPieces({ 300: 1, 100: -1, 25: 1.5 }, usd).sort()).toEqual(['100', '25', '300']);
  });

  it('says differences and pieces in words', () => {
    expect(varianceWords(-1800)).toBe('18.00 short');
    expect(varianceWords(20)).toBe('0.20 over');
    expect(varianceWords(0)).toBe('no difference');
    expect(piecesWords({ 25: 4, 10000: 1 }, usd)).toBe('1 × 100.00, 4 × 0.25');
    expect(piecesWords({}, usd)).toBe('nothing');
  });
});

describe('expected cash', () => {
  it('follows the formula', () => {
    const moves = {
      float: 20_000,
      cashTaken: 50_000,
      changeGiven: 3882,
      refunds: 1000,
      cashIn: 500,
      cashOut: 1800,
      drops: 30_000,
    };
    expect(expectedCash(moves)).toBe(33_818);
    expect(variance(33_000, 33_818)).toBe(-818);
  });
});

describe('bag plan', () => {
  it('keeps small pieces and banks large ones', () => {
    const plan = planBag({ 2000: 5, 5000: 10, 500: 10, 100: 40, 25: 40, 1: 18 }, 20_000);
    expect(plan.outcome).toBe('exact');
    expect(plan.keep).toEqual({ 2000: 5, 500: 10, 100: 40, 25: 40 });
    expect(plan.banked).toBe(50_018);
  });

  it('finds the float where taking the largest fitting piece each time would fail', () => {
    // 60 from 50 + 3 × 20: the 50 must go.
    expect(planBag({ 5000: 1, 2000: 3, 10000: 1 }, 6000).keep).toEqual({ 2000: 3 });
  });

  it('says when the pieces cannot make the float', () => {
    expect(planBag({ 5000: 3 }, 6000)).toMatchObject({ kept: 10_000, banked: 5000, outcome: 'above' });
    expect(planBag({ 500: 3 }, 6000)).toMatchObject({ kept: 1500, banked: 0, outcome: 'short' });
    expect(planBag({}, 0)).toMatchObject({ kept: 0, outcome: 'exact' });
    expect(() => planBag({}, -1)).toThrow(RangeError);
  });

  it('is as somebody chose it by hand, never with more than was counted', () => {
    const counted = { 2000: 5, 100: 10 };
    expect(planByHand(counted, { 2000: 2, 100: 10 })).toMatchObject({ kept: 5000, banked: 6000 });
    expect(planByHand(counted, {})).toMatchObject({ kept: 0, banked: 11_000, bag: counted });
    expect(() => planByHand(counted, { 2000: 6 })).toThrow(RangeError);
    expect(() => planByHand(counted, { 5000: 1 })).toThrow(RangeError);
  });

  it('of a total has amounts without pieces', () => {
    expect(planTotal(52_386, 20_000)).toEqual({
      keep: {},
      bag: {},
      kept: 20_000,
      banked: 32_386,
      outcome: 'exact',
    });
    expect(planTotal(15_000, 20_000)).toMatchObject({ kept: 15_000, banked: 0, outcome: 'short' });
    expect(() => planTotal(1, -1)).toThrow(RangeError);
  });

  it('is exact wherever any choice of pieces is, else the nearest above', () => {
    const values = [1, 5, 10, 25, 100, 200, 500];
    const counts = fc.array(fc.integer({ min: 0, max: 3 }), {
      minLength: values.length,
      maxLength: values.length,
    });
    fc.assert(
      fc.property(counts, fc.integer({ min: 0, max: 2600 }), (list, float) => {
        const counted: Pieces = Object.fromEntries(list.map((count, at) => [values[at], count]));
        const reachable = list.reduce(
          (sums, count, at) =>
            new Set(
              [...sums].flatMap((sum) =>
                Array.from({ length: count + 1 }, (_, n) => sum + n * (values[at] ?? 0)),
              ),
            ),
          new Set([0]),
        );
        const plan = planBag(counted, float);
        const best = Math.min(...[...reachable].filter((sum) => sum >= float));
        expect(plan.kept).toBe(best === Infinity ? worth(counted) : best);
        expect(plan.kept + plan.banked).toBe(worth(counted));
        for (const [value, count] of Object.entries(plan.keep)) {
          expect(count).toBeGreaterThanOrEqual(0);
          expect(count).toBeLessThanOrEqual(counted[value] ?? 0);
        }
      }),
      { numRuns: 300 },
    );
  });
});
