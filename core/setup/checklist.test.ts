import { describe, expect, it } from 'vitest';
import { setupChecklist, type SetupProgress } from './checklist.ts';

const fresh: SetupProgress = {
  receiptWords: 1,
  staff: 1,
  taxRates: 0,
  taxCategories: 1,
  items: 0,
  withoutCost: 1,
  tiles: 0,
  shifts: 0,
  sales: 0,
};
const open = (progress: SetupProgress) =>
  setupChecklist(progress).flatMap(({ done, words }) => (done ? [] : [words]));

describe('the checklist of a new shop', () => {
  it('fills as things get done', () => {
    expect(open(fresh)).toHaveLength(8);
    const steps: Partial<SetupProgress>[] = [
      { receiptWords: 2 },
      { taxRates: 1 },
      { staff: 2 },
      { items: 1 },
      { withoutCost: 0 },
      { tiles: 1 },
      { shifts: 1 },
      { sales: 1 },
    ];
    let now = fresh;
    for (const [at, step] of steps.entries()) {
      now = { ...now, ...step };
      expect(open(now)).toHaveLength(7 - at);
    }
  });
});
