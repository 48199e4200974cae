import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { currencyOf } from '../payment/currency.ts';
import { plantedShift } from './testing/plantedShift.ts';
import { CAUSES, explainVariance, type VarianceFacts } from './varianceFinder.ts';

const facts = (more: Partial<VarianceFacts>): VarianceFacts => ({
  variance: 0,
  events: [],
  counted: {},
  pieces: currencyOf('USD').pieces,
  habits: [],
  terminalOff: null,
  digits: 2,
  ...more,
});
const sale = (id: string, amount: number, handed = amount) => ({
  id,
  kind: 'sale' as const,
  amount,
  handed,
  name: `1-${id}`,
});

describe('the explanations of a difference', () => {
  it('are none where there is none', () => {
    expect(explainVariance(facts({ events: [sale('1', 500)] }))).toEqual([]);
  });

  it('begin with a habitual cash-out that is missing', () => {
    const [first] = explainVariance(
      facts({ variance: -2400, habits: [{ reason: 'Tea and milk', amount: 2400, seen: 11, of: 12 }] }),
    );
    expect(first).toMatchObject({
      cause: 'habit-missing',
      followUp: { kind: 'cash-out', amount: 2400, reason: 'Tea and milk' },
    });
    expect(first?.words).toContain('11 of the last 12');
  });

  it('tell a card payment that was cash by the terminal that has as much less', () => {
    const card = { ...sale('7', 3820), kind: 'card' as const };
    const [first] = explainVariance(
      facts({ variance: 3820, events: [card, sale('8', 900)], terminalOff: -3820 }),
    );
    expect(first).toMatchObject({ cause: 'cash-as-card', eventIds: ['7'], followUp: { to: 'cash' } });
    // A terminal that has what was recorded rules it out.
    expect(
      explainVariance(facts({ variance: 3820, events: [card], terminalOff: 0 })).map(({ cause }) => cause),
    ).not.toContain('cash-as-card');
  });

  it('find half of the difference, swapped figures, a neighbouring note and a wrong piece', () => {
    const move = { id: 'm', kind: 'cash-in' as const, amount: 5000, handed: 0, name: 'Change from the bank' };
    expect(explainVariance(facts({ variance: -10_000, events: [move] }))[0]).toMatchObject({
      cause: 'wrong-sign',
    });
    const out = { id: 'o', kind: 'cash-out' as const, amount: -5400, handed: 0, name: 'Post' };
    // 45.00 was taken out and typed as 54.00: nine too many are left.
    expect(explainVariance(facts({ variance: 900, events: [out] })).map(({ cause }) => cause)).toContain(
      'digits-swapped',
    );
    expect(explainVariance(facts({ variance: -3000, events: [sale('2', 640, 5000)] }))[0]).toMatchObject({
      cause: 'keyed-for-handed',
    });
    expect(
      explainVariance(facts({ variance: 1500, counted: { 2000: 4, 500: 3 } })).map(({ cause }) => cause),
    ).not.toContain('roll-missed');
    expect(explainVariance(facts({ variance: 1000, counted: { 2000: 4 } }))[0]).toMatchObject({
      cause: 'wrong-piece',
    });
  });

  it('never name a person, and say more of what fits once than of what fits often', () => {
    const once = explainVariance(facts({ variance: -999, events: [sale('1', 999), sale('2', 100)] }));
    const often = explainVariance(
      facts({ variance: -999, events: Array.from({ length: 30 }, (_, at) => sale(String(at), 999)) }),
    );
    const twice = (all: typeof once) => all.find(({ cause }) => cause === 'twice')?.likelihood ?? 0;
    expect(twice(once)).toBeGreaterThan(0);
    for (const { words } of [...once, ...often]) expect(words).not.toMatch(/cashier|stole|fault|blame/i);
  });

  it('rank the cause that was planted among the first three in most shifts', () => {
    let hits = 0;
    let tries = 0;
    for (const cause of CAUSES) {
      for (let seed = 1; seed <= 8; seed++) {
        const found = explainVariance(plantedShift(cause, seed));
        tries += 1;
        if (found.slice(0, 3).some((one) => one.cause === cause)) hits += 1;
      }
    }
    expect(hits / tries).toBeGreaterThan(0.8);
  });

  it('are at most twelve, best first, whatever the shift', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 10_000 }), fc.constantFrom(...CAUSES), (seed, cause) => {
        const found = explainVariance(plantedShift(cause, seed));
        expect(found.length).toBeLessThanOrEqual(12);
        const likelihoods = found.map(({ likelihood }) => likelihood);
        expect(likelihoods).toEqual(likelihoods.toSorted((a, b) => b - a));
      }),
      { numRuns: 30 },
    );
  });
});
