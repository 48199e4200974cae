import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LOCALES, writeFiguresAs } from '../locale.ts';
import { sum } from '../money.ts';
import { cashRounding } from './cash.ts';
import { roundUpAmount } from './roundUp.ts';
import { formatTipRates, parseTipRates, tipChoices } from './tips.ts';
import {
  covers,
  holdsMoney,
  isOpen,
  mayBeTaken,
  splitEvenly,
  taken,
  TENDER_STATES,
  tenderStep,
  type TenderEvent,
  type TenderState,
  mayStep,
} from './tender.ts';
import { worthOf } from './tenderType.ts';

const amount = fc.integer({ min: 0, max: 10_000_000 });
const EVENTS: TenderEvent[] = [
  'ask',
  'approve',
  'decline',
  'cancel',
  'silence',
  'abandon',
  'undo',
  'sent-back',
  'not-sent-back',
];

describe('a step on a payment', () => {
  it('is taken until the sale is finished; then what the till went on without goes back, and what a void takes', () => {
    const facts = (state: TenderState, more = {}) => ({
      state,
      finished: true,
      voiding: false,
      sendsBack: false,
      ...more,
    });
    expect(mayStep(facts('approved', { finished: false }), 'undo')).toBe(true);
    for (const state of TENDER_STATES) {
      expect(mayStep(facts(state), 'undo'), state).toBe(false);
      expect(mayStep(facts(state, { voiding: true }), 'undo'), state).toBe(false);
      const late = state === 'abandoned' || state === 'undoing';
      expect(mayStep(facts(state), 'approve'), state).toBe(late);
      expect(mayStep(facts(state, { voiding: true }), 'sent-back'), state).toBe(true);
      expect(mayStep(facts(state, { sendsBack: true }), 'ask'), state).toBe(true);
    }
  });
});

describe('a tender', () => {
  it('forgets no money, whatever happens in whatever order', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...EVENTS), { maxLength: 30 }), (events) => {
        let state: TenderState = 'stored';
        // What the device has done: the till must hold it, or be on the way to send it back.
        let moneyTaken = false;
        for (const event of events) {
          const next = tenderStep(state, event);
          if (next === null) continue;
          if (event === 'approve') moneyTaken = true;
          if (event === 'sent-back') moneyTaken = false;
          state = next;
          if (moneyTaken) expect(['approved', 'undoing']).toContain(state);
          else expect(state).not.toBe('approved');
        }
      }),
    );
  });

  it('hears an answer once: a second one changes nothing', () => {
    for (const answer of ['approve', 'decline', 'cancel'] as const) {
      const state = tenderStep('asked', answer);
      expect(state).not.toBeNull();
      for (const again of ['approve', 'decline', 'cancel'] as const) {
        expect(tenderStep(state ?? 'stored', again)).toBeNull();
      }
    }
  });

  it('sends money back that was taken after the till had gone on', () => {
    expect(tenderStep('abandoned', 'approve')).toBe('undoing');
    expect(tenderStep('undoing', 'sent-back')).toBe('undone');
    expect(tenderStep('undoing', 'not-sent-back')).toBe('approved');
  });

  it('can always come to an end', () => {
    for (const state of TENDER_STATES) {
      const ends = ['approved', 'declined', 'cancelled', 'undone'];
      const reach = new Set<TenderState>([state]);
      for (const from of reach)
        for (const event of EVENTS) {
          const next = tenderStep(from, event);
          if (next) reach.add(next);
        }
      expect([...reach].some((one) => ends.includes(one))).toBe(true);
      if (isOpen(state)) expect(holdsMoney(state)).toBe(true);
    }
  });
});

describe('what is due', () => {
  const tender = fc.record({ state: fc.constantFrom(...TENDER_STATES), amount });

  it('never lets more be taken than is left, and is covered only by money that is here', () => {
    fc.assert(
      fc.property(amount, fc.array(tender), (due, tenders) => {
        expect(mayBeTaken(due, tenders)).toBeLessThanOrEqual(due - taken(tenders));
        if (covers(due, tenders)) {
          expect(taken(tenders)).toBe(due);
          expect(mayBeTaken(due, tenders)).toBe(0);
        }
      }),
    );
  });

  it('splits evenly, the larger parts first', () => {
    fc.assert(
      fc.property(amount, fc.integer({ min: 2, max: 10 }), (whole, parts) => {
        const split = splitEvenly(whole, parts);
        expect(split).toHaveLength(parts);
        expect(sum(split)).toBe(whole);
        expect((split[0] ?? 0) - (split.at(-1) ?? 0)).toBeLessThanOrEqual(1);
        expect(split).toEqual(split.toSorted((a, b) => b - a));
      }),
    );
    expect(splitEvenly(10_00, 3)).toEqual([3_34, 3_33, 3_33]);
  });

  it('rounds up to the next whole unit, and not at all where it is whole', () => {
    expect(roundUpAmount(501_92, 100)).toBe(8);
    expect(roundUpAmount(502_00, 100)).toBe(0);
    expect(roundUpAmount(501_92, 500)).toBe(3_08);
    fc.assert(
      fc.property(amount, fc.constantFrom(100, 500, 1000), (total, step) => {
        const added = roundUpAmount(total, step);
        expect((total + added) % step === 0 || total === 0).toBe(true);
        expect(added).toBeLessThan(step);
      }),
    );
  });

  it('rounds cash to the smallest coin by less than half of it', () => {
    expect(cashRounding(1_02, 5)).toBe(-2);
    expect(cashRounding(1_03, 5)).toBe(2);
    expect(cashRounding(1_03, 0)).toBe(0);
    fc.assert(
      fc.property(amount, fc.constantFrom(5, 10, 50), (due, step) => {
        const by = cashRounding(due, step);
        expect((due + by) % step).toBe(0);
        expect(Math.abs(by) * 2).toBeLessThanOrEqual(step);
      }),
    );
  });

  it('is told in foreign money', () => {
    const foreign = { currency: 'CAD', digits: 2, rate: 720_000 };
    expect(worthOf(20_00, foreign, 2)).toBe(14_40);
    expect(worthOf(1000, { currency: 'JPY', digits: 0, rate: 6_500 }, 2)).toBe(6_50);
    expect(tipChoices(20_00, [150_000, 200_000]).map((tip) => tip.amount)).toEqual([3_00, 4_00]);
  });

  it('tips are typed as the shop writes decimals, up to four of them', () => {
    expect(parseTipRates('10,12.5 , 20 %')).toEqual([100_000, 125_000, 200_000]);
    expect(parseTipRates(' ')).toEqual([]);
    for (const wrong of ['ten', '0', '10, -5', '101', '1, 2, 3, 4, 5'])
      expect(parseTipRates(wrong)).toBeNull();
    writeFiguresAs('de-DE');
    expect(parseTipRates('7,5')).toEqual([75_000]);
    expect(parseTipRates('10, 12,5; 20')).toEqual([100_000, 125_000, 200_000]);
    for (const locale of LOCALES) {
      writeFiguresAs(locale);
      expect(parseTipRates(formatTipRates([75_000, 100_000]))).toEqual([75_000, 100_000]);
    }
    writeFiguresAs('en-US');
  });
});
