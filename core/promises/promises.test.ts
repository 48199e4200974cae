import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { ONE } from '../quantity.ts';
import {
  dayAfter,
  INTERVALS,
  layawayPlan,
  leastDeposit,
  planStanding,
  termsProblems,
  type Interval,
} from './plan.ts';
import {
  depositToUse,
  handoverFigures,
  PLAIN_LINE,
  promisedFigures,
  restOf,
  type PromiseLine,
} from './promised.ts';
import { parsePromiseNumber, promiseNumber } from './promiseNumber.ts';
import { isOpen, promiseState, wantsAttention, type PromiseFacts } from './state.ts';

const TODAY = '2026-03-02';
const RULES = {
  leastDeposit: 200_000,
  parts: 3,
  interval: 'month' as const,
  fee: 0,
  lower: false,
  words: '',
  stages: [],
};
const intervals = fc.constantFrom(...(Object.keys(INTERVALS) as Interval[]));
const money = fc.integer({ min: 0, max: 10_000_000 });

describe('the number of a promise', () => {
  it('is read back as it is printed, and is no other', () => {
    expect(promiseNumber('layaway', 7)).toBe('L-0007');
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999_999 }), (count) => {
        expect(parsePromiseNumber(promiseNumber('layaway', count))).toEqual({ kind: 'layaway', count });
      }),
    );
    expect(parsePromiseNumber(' l-0012 ')).toEqual({ kind: 'layaway', count: 12 });
    for (const other of ['W-0007', '1-0007', 'L-7', 'L0007', ''])
      expect(parsePromiseNumber(other)).toBeNull();
  });
});

describe('the plan of a layaway', () => {
  it('keeps the day of the month, or takes its last one', () => {
    expect(dayAfter('2026-01-31', 'month')).toBe('2026-02-28');
    expect(dayAfter('2026-01-31', 'month', 2)).toBe('2026-03-31');
    expect(dayAfter('2027-12-15', 'month')).toBe('2028-01-15');
    expect(dayAfter('2026-02-26', 'week')).toBe('2026-03-05');
    expect(dayAfter('2026-12-24', 'fortnight')).toBe('2027-01-07');
  });

  it('adds up to the total, by day, in parts that differ by a cent at most', () => {
    fc.assert(
      fc.property(
        money,
        money,
        fc.integer({ min: 1, max: 52 }),
        intervals,
        (total, paid, parts, interval) => {
          const deposit = Math.min(total, paid);
          const terms = { deposit, parts, interval, firstDay: '2026-03-31', fee: 0 };
          const plan = layawayPlan(total, terms, TODAY);
          expect(sum(plan.map(({ amount }) => amount))).toBe(total);
          const days = plan.map(({ day }) => day);
          expect(days).toEqual(days.toSorted());
          const later = plan.filter(({ day }) => day !== TODAY).map(({ amount }) => amount);
          if (later.length > 0) expect(Math.max(...later) - Math.min(...later)).toBeLessThanOrEqual(1);
        },
      ),
    );
  });

  it('says what is due, what comes next, and since when it is late', () => {
    const terms = { deposit: 2000, parts: 2, interval: 'month' as const, firstDay: '2026-04-02', fee: 0 };
    const plan = layawayPlan(10_000, terms, TODAY);
    expect(planStanding(plan, 0, TODAY, 10_000)).toEqual({
      due: 2000,
      next: { day: TODAY, amount: 2000 },
      overdueDays: 0,
    });
    expect(planStanding(plan, 2000, TODAY, 10_000 - 2000)).toEqual({
      due: 0,
      next: { day: '2026-04-02', amount: 4000 },
      overdueDays: 0,
    });
    // A part that was paid in part stays due for the rest.
    expect(planStanding(plan, 3000, '2026-04-12', 10_000 - 3000)).toEqual({
      due: 3000,
      next: { day: '2026-04-02', amount: 3000 },
      overdueDays: 10,
    });
    expect(planStanding(plan, 2000, '2026-05-03', 8000).due).toBe(8000);
    // What was paid at a handover is left to pay no more.
    expect(planStanding(plan, 2000, '2026-05-03', 500)).toMatchObject({ due: 500, next: { amount: 500 } });
    expect(planStanding(plan, 10_000, '2027-01-01', 0)).toEqual({ due: 0, next: null, overdueDays: 0 });
  });

  it('is refused next to the field that is wrong', () => {
    const facts = { total: 10_000, rules: RULES, today: TODAY };
    const terms = { deposit: 2000, parts: 3, interval: 'month' as const, firstDay: '2026-03-03', fee: 0 };
    expect(termsProblems(terms, facts)).toEqual({});
    const wrong = (change: Partial<typeof terms>) =>
      Object.keys(termsProblems({ ...terms, ...change }, facts));
    expect(wrong({ deposit: 1999 })).toEqual(['deposit']);
    expect(wrong({ deposit: 10_001 })).toEqual(['deposit']);
    expect(wrong({ parts: 0 })).toEqual(['parts']);
    expect(wrong({ firstDay: TODAY })).toEqual(['firstDay']);
    expect(wrong({ fee: 10_001, parts: 53 })).toEqual(['parts', 'fee']);
  });

  it('asks for a deposit that is at least its part, and less than a cent more', () => {
    fc.assert(
      fc.property(money, fc.integer({ min: 0, max: 1_000_000 }), (total, rate) => {
        const least = leastDeposit(total, rate);
        expect(least * 1_000_000).toBeGreaterThanOrEqual(total * rate - 500_000);
        expect(least * 1_000_000).toBeLessThanOrEqual(total * rate + 1_000_000);
        expect(least).toBeLessThanOrEqual(total);
      }),
    );
  });
});

const line = (change: Partial<PromiseLine>): PromiseLine => ({
  position: 1,
  itemId: 1,
  number: 'X',
  name: 'Thing',
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
  quantity: ONE,
  ...PLAIN_LINE,
  unitPrice: 0,
  regular: 0,
  net: 0,
  tax: 0,
  records: [],
  ...change,
});

describe('promised goods', () => {
  it('cost what was promised, in however many parts they leave', () => {
    const cuts = fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(cuts, money, money, money, (parts, regular, off, tax) => {
        const whole = sum(parts) * ONE;
        const taken = Math.min(off, regular);
        const promised = line({
          quantity: whole,
          unitPrice: regular,
          regular,
          net: regular - taken,
          tax,
          records: [{ kind: 'discount', amount: 0 - taken, why: 'dented' }],
        });
        let handed = 0;
        const figures = parts.map((units) => {
          const one = promisedFigures({ ...promised, handed }, units * ONE);
          expect(one.net).toBe(one.regular + sum(one.records.map(({ amount }) => amount)));
          handed += units * ONE;
          return one;
        });
        expect(sum(figures.map((one) => one.regular))).toBe(promised.regular);
        expect(sum(figures.map((one) => one.net))).toBe(promised.net);
        expect(restOf({ ...promised, handed: 0 })).toBe(promised.net + tax);
        expect(restOf({ ...promised, handed: whole })).toBe(0);
      }),
    );
  });

  it('take of the deposit what they come to, and leave what has to stay', () => {
    expect(depositToUse(5000, 3000, 1000)).toBe(3000);
    expect(depositToUse(5000, 4500, 1000)).toBe(4000);
    expect(depositToUse(500, 4500, 1000)).toBe(0);
    fc.assert(
      fc.property(money, money, money, (held, due, keeps) => {
        const used = depositToUse(held, due, keeps);
        expect(used).toBeGreaterThanOrEqual(0);
        expect(used).toBeLessThanOrEqual(Math.min(held, due));
        expect(held - used).toBeGreaterThanOrEqual(Math.min(held, keeps));
      }),
    );
  });
});

describe('the state of a promise', () => {
  const FACTS: PromiseFacts = {
    cancelledAt: null,
    units: 2 * ONE,
    handed: 0,
    rest: 1000,
    held: 0,
    paid: 0,
    coming: false,
    arrivedAt: null,
    toldAt: null,
    order: null,
    relay: null,
  };
  it.each([
    ['begun', {}],
    ['running', { held: 200, paid: 200 }],
    ['coming', { held: 200, paid: 200, coming: true }],
    ['arrived', { held: 200, paid: 200, coming: true, arrivedAt: TODAY }],
    ['told', { held: 200, paid: 200, coming: true, arrivedAt: TODAY, toldAt: TODAY }],
    ['paid', { held: 1000, paid: 1000, toldAt: TODAY }],
    ['part', { held: 100, paid: 500, handed: ONE, rest: 500 }],
    ['paid', { held: 500, paid: 1000, handed: ONE, rest: 500 }],
    ['handed', { handed: 2 * ONE, rest: 0, paid: 1000 }],
    ['cancelled', { cancelledAt: TODAY, paid: 200 }],
  ] as const)('%s follows from what has happened', (state, facts) => {
    expect(promiseState({ ...FACTS, ...facts })).toBe(state);
  });

  it('wants attention where goods or money wait for somebody', () => {
    expect(wantsAttention('paid', 0, null)).toBe(true);
    expect(wantsAttention('running', 3, null)).toBe(true);
    expect(wantsAttention('running', 0, null)).toBe(false);
    expect(wantsAttention('cancelled', 3, null)).toBe(false);
    expect([isOpen('part'), isOpen('handed'), isOpen('cancelled')]).toEqual([true, false, false]);
  });
});

describe('the price at the handover', () => {
  const promised = line({
    quantity: 4 * ONE,
    unitPrice: 1_000,
    regular: 4_000,
    net: 3_600,
    records: [{ kind: 'discount', amount: -400, why: 'dented' }],
  });
  it('is the one that was promised, unless the shop lets a lower one of today count', () => {
    expect(handoverFigures(promised, 2 * ONE).net).toBe(1_800);
    expect(handoverFigures({ ...promised, now: null }, 2 * ONE).net).toBe(1_800);
    expect(handoverFigures({ ...promised, now: 950 }, 2 * ONE).net).toBe(1_800);
    expect(handoverFigures({ ...promised, now: 850 }, 2 * ONE)).toEqual({
      unitPrice: 850,
      regular: 1_700,
      net: 1_700,
      records: [],
    });
  });
});
