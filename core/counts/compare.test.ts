import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { countNumber, differenceOf } from './compare.ts';

describe('a count', () => {
  it('is compared with what the books said then', () => {
    expect(differenceOf({ counted: 5, level: 7, came: 0, left: 0 })).toBe(-2);
    expect(differenceOf({ counted: 9, level: 7, came: 0, left: 0 })).toBe(2);
    expect(countNumber(12)).toBe('Z-0012');
  });

  it('is not off where what moved meanwhile explains it, and off by the rest where it does not', () => {
    expect(differenceOf({ counted: 5, level: 4, came: 0, left: 1 })).toBe(0);
    expect(differenceOf({ counted: 3, level: 4, came: 1, left: 1 })).toBe(0);
    expect(differenceOf({ counted: 7, level: 4, came: 0, left: 1 })).toBe(2);
    expect(differenceOf({ counted: 1, level: 4, came: 1, left: 0 })).toBe(-2);
  });

  it('that is right is never off, whatever is sold and comes while it goes on', () => {
    const spot = fc.nat(9);
    const step = fc.record({
      counts: fc.boolean(),
      spot: fc.nat(3),
      change: fc.integer({ min: -3, max: 3 }),
    });
    fc.assert(
      fc.property(
        fc.array(spot, { minLength: 4, maxLength: 4 }),
        fc.array(step, { maxLength: 20 }),
        (spots, steps) => {
          const there = [...spots];
          const level = () => sum(there);
          let [counted, came, left, last] = [0, 0, 0, 0];
          const open = new Set([0, 1, 2, 3]);
          const count = (at: number) => {
            if (!open.delete(at)) return;
            counted += there[at] ?? 0;
            last = level();
            [came, left] = [came + moved.came, left + moved.left];
            moved = { came: 0, left: 0 };
          };
          let moved = { came: 0, left: 0 };
          for (const { counts, spot: at, change } of steps) {
            if (counts) count(at);
            else if ((there[at] ?? 0) + change >= 0) {
              there[at] = (there[at] ?? 0) + change;
              // What moved before the first entry is in the books by then.
              if (open.size < 4)
                moved = { came: moved.came + Math.max(0, change), left: moved.left + Math.max(0, -change) };
            }
          }
          for (const at of [...open]) count(at);
          expect(differenceOf({ counted, level: last, came, left })).toBe(0);
        },
      ),
    );
  });
});
