import { expect, it } from 'vitest';
import { cardProblem } from './card.ts';

it('a code is a card once, for one customer, and never that of goods', () => {
  const holder = { customerId: 4, name: 'Mo Tindall', stopped: false };
  expect(cardProblem('NEW-1', {}, 4)).toBeNull();
  expect(cardProblem('NEW-1', {}, null)).toBeNull();
  expect(cardProblem('NEW-1', { holder }, 4)).toBe('Mo Tindall has this card already.');
  expect(cardProblem('NEW-1', { holder }, 5)).toBe('This is the card of Mo Tindall.');
  expect(cardProblem('NEW-1', { holder }, null)).toBe('This is the card of Mo Tindall.');
  expect(cardProblem('NEW-1', { holder: { ...holder, stopped: true } }, 4)).toBe(
    'This card of Mo Tindall was stopped and counts no more.',
  );
  expect(cardProblem('NEW-1', { item: 'Rosin, light' }, 4)).toBe('This is the code of Rosin, light.');
  for (const code of ['', 'NEW 1', 'Ä', '1'.repeat(41)])
    expect([code, cardProblem(code, {}, 4)]).toEqual([
      code,
      'The code of a card has no spaces and at most 40 characters.',
    ]);
});
