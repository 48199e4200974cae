import { describe, expect, it } from 'vitest';
import { ratesOn } from './taxRates.ts';

const rates = [
  { id: 1, category: 1, name: 'Sales tax', rate: 75_000, from: '0001-01-01' },
  { id: 2, category: 1, name: 'Sales tax', rate: 80_000, from: '2026-04-01' },
  { id: 3, category: 1, name: 'Harbour levy', rate: 5_000, from: '2026-03-10' },
  { id: 4, category: 1, name: 'Harbour levy', rate: 0, from: '2026-05-01' },
  { id: 5, category: 2, name: 'Printed music tax', rate: 25_000, from: '0001-01-01' },
];
const due = (day: string) =>
  Object.fromEntries(
    Object.entries(ratesOn(rates, day)).map(([category, list]) => [category, list.map(({ id }) => id)]),
  );

describe('rates of tax', () => {
  it('hold from midnight of their first day until the next one of their name, and end with zero', () => {
    expect(due('2026-03-09')).toEqual({ 1: [1], 2: [5] });
    expect(due('2026-03-31')).toEqual({ 1: [1, 3], 2: [5] });
    expect(due('2026-04-01')).toEqual({ 1: [2, 3], 2: [5] });
    expect(due('2026-05-01')).toEqual({ 1: [2], 2: [5] });
  });

  it('do not depend on the order in which they were entered', () => {
    for (const day of ['2026-03-31', '2026-04-15', '2026-06-01']) {
      expect(ratesOn(rates.toReversed(), day)).toEqual(
        Object.fromEntries(
          Object.entries(ratesOn(rates, day)).map(([key, list]) => [key, list.toReversed()]),
        ),
      );
    }
  });
});
