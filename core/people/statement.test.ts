import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { statementOf, type StatementItem } from './statement.ts';

const item = (over: Partial<StatementItem>): StatementItem => ({
  id: 1,
  day: '2026-02-10',
  kind: 'charge',
  amount: 100,
  receipt: null,
  buyer: null,
  reference: '',
  words: '',
  ...over,
});
const FEBRUARY = { from: '2026-02-01', to: '2026-02-28' };

describe('a statement', () => {
  it('begins with what was owed before, runs on, and ends with what is owed', () => {
    const items = [
      item({ id: 1, day: '2026-01-31', amount: 1_000 }),
      item({ id: 2, day: '2026-02-01', amount: 500, buyer: 'Dorian Pell' }),
      item({ id: 3, day: '2026-02-28', kind: 'payment', amount: -700 }),
      item({ id: 4, day: '2026-03-01', amount: 9_999 }),
    ];
    expect(statementOf(items, [{ dueOn: '2026-03-31', remaining: 800 }], FEBRUARY)).toMatchObject({
      before: 1_000,
      rows: [{ running: 1_500 }, { running: 800 }],
      charged: 500,
      paid: 700,
      after: 800,
      ages: { notDue: 800 },
      buyers: [{ name: 'Dorian Pell', charged: 500 }],
    });
  });

  it('of one buyer shows what they bought alone', () => {
    const items = [
      item({ id: 1, day: '2026-01-31', amount: 1_000, buyer: 'Dorian Pell' }),
      item({ id: 2, amount: 500, buyer: 'Dorian Pell' }),
      item({ id: 3, amount: 300, buyer: 'Mina Castellow' }),
    ];
    expect(statementOf(items, [], { ...FEBRUARY, buyer: 'Dorian Pell' })).toMatchObject({
      before: 0,
      rows: [{ id: 2 }],
      after: 500,
      ages: null,
    });
  });

  it('ends with what was owed before, what was charged and what was paid, whatever happened', () => {
    const day = fc
      .integer({ min: 1, max: 28 })
      .map((one) => `2026-0${1 + (one % 3)}-${String(one).padStart(2, '0')}`);
    const any = fc.record({ day, amount: fc.integer({ min: -9_999, max: 9_999 }) });
    fc.assert(
      fc.property(fc.array(any), (all) => {
        const items = all.toSorted((a, b) => (a.day < b.day ? -1 : 1)).map((one, id) => item({ ...one, id }));
        const { before, charged, paid, after, rows } = statementOf(items, [], FEBRUARY);
        expect(before + charged - paid).toBe(after);
        expect(rows.at(-1)?.running ?? before).toBe(after);
        expect(after).toBe(sum(items.filter((one) => one.day <= FEBRUARY.to).map(({ amount }) => amount)));
      }),
    );
  });
});
