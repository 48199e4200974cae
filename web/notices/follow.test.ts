import { describe, expect, it } from 'vitest';
import { follow } from './follow.ts';

const before = { name: 'Two for one', days: [1, 2], least: 5 };

describe('a form follows what is kept', () => {
  it('where nobody has touched it; what was typed stays', () => {
    const form = { name: 'Two for three', days: [1, 2], least: 5 };
    expect(follow(form, before, { name: 'Two for one', days: [6], least: 7 })).toBe(true);
    expect(form).toEqual({ name: 'Two for three', days: [6], least: 7 });
  });

  it('and says where both have changed something, but not to the same', () => {
    const form = { name: 'Two for three', days: [1, 2], least: 7 };
    expect(follow(form, before, { ...before, least: 7 })).toBe(true);
    expect(follow(form, before, { ...before, name: 'Three for one' })).toBe(false);
    expect(form.name).toBe('Two for three');
  });
});
