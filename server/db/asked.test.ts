import { expect, it } from 'vitest';
import { asking, typedNumber } from './asked.ts';

it.each([
  ['12', 12],
  [' 0012 ', 12],
  ['B-0012', 12],
  ['transfer 7', 7],
  ['clarinet', undefined],
  ['3 rolls', undefined],
  ['Note 77/b', undefined],
  // A code that was scanned is none.
  ['4012345678901', undefined],
  ['', undefined],
])('%j means the number %j', (find, number) => {
  expect(typedNumber(find)).toBe(number);
});

it('numbers what is asked with in the order in which it is asked for', () => {
  const { given, ask } = asking();
  expect([ask('words'), ask(3), given]).toEqual(['$1', '$2', ['words', 3]]);
  expect(asking('what stands there').ask(4)).toBe('$2');
});
