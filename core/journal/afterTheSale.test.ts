import { describe, expect, it } from 'vitest';
import { correctionProblem, returnProblem, voidProblem, type SaleFacts } from './afterTheSale.ts';

const sale = (more: Partial<SaleFacts> = {}): SaleFacts => ({
  voided: null,
  shiftOpen: true,
  ownTill: true,
  tillNumber: 2,
  returns: 0,
  refunding: false,
  corrections: 0,
  ...more,
});

describe('after the sale', () => {
  it('a void is refused with the reason, and one that was begun goes on', () => {
    expect(voidProblem(sale())).toBeNull();
    expect(voidProblem(sale({ voided: 'begun', shiftOpen: false, returns: 1 }))).toBeNull();
    for (const [more, words] of [
      [{ voided: 'done' }, 'already'],
      [{ shiftOpen: false }, 'shift is closed'],
      [{ ownTill: false }, 'till 2'],
      [{ refunding: true }, 'just now'],
      [{ returns: 1 }, 'came back'],
      [{ corrections: 1 }, 'corrected'],
    ] as const)
      expect(voidProblem(sale(more))).toContain(words);
  });

  it('only cash and cards on other terminals are corrected, once, and not what was voided or refunded', () => {
    const wanted = { kind: 'cash', to: 'card', corrected: false, refunded: false } as const;
    expect(correctionProblem(sale(), wanted)).toBeNull();
    expect(correctionProblem(sale(), { ...wanted, kind: 'noted-card', to: 'cash' })).toBeNull();
    expect(correctionProblem(sale(), { ...wanted, to: 'cash' })).toContain('Only cash');
    expect(correctionProblem(sale(), { ...wanted, kind: 'card', to: 'cash' })).toContain('Only cash');
    expect(correctionProblem(sale(), { ...wanted, corrected: true })).toContain('already');
    expect(correctionProblem(sale(), { ...wanted, refunded: true })).toContain('went back');
    expect(correctionProblem(sale({ voided: 'begun' }), wanted)).toContain('voided');
    expect(correctionProblem(sale({ shiftOpen: false }), wanted)).toContain('closed');
  });

  it('nothing comes back from what is voided or being voided', () => {
    expect(returnProblem(sale())).toBeNull();
    expect(returnProblem(sale({ voided: 'begun' }))).toContain('nothing comes back');
  });
});
