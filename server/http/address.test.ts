import { expect, it } from 'vitest';
import { idIn, pageIn, sinceIn } from './address.ts';

it('numbers in addresses are such as the database keeps, and nothing else is one', () => {
  expect([idIn('7'), idIn('2147483647'), pageIn('3'), sinceIn('9007199254740991')]).toEqual([
    7, 2_147_483_647, 3, 9_007_199_254_740_991,
  ]);
  const none = [undefined, '', '-1', '0', '1.5', '1e309', '9'.repeat(400), 'NaN', 'a', '[]', ['1', '2']];
  for (const text of none) expect([text, idIn(text), pageIn(text), sinceIn(text)]).toEqual([text, 0, 0, 0]);
  expect([idIn('2147483648'), pageIn('2147483648'), sinceIn('9007199254740992')]).toEqual([0, 0, 0]);
});
