import { expect, it } from 'vitest';
import { ref } from 'vue';
import { useSomeOf } from './someOf.ts';

it('shows the first rows of a long list, and more on each press until all are there', () => {
  const rows = ref(Array.from({ length: 450 }, (_, at) => at));
  const { some, left, more } = useSomeOf(() => rows.value);
  expect([some.value.length, left.value]).toEqual([200, 250]);
  more();
  expect([some.value.at(-1), left.value]).toEqual([399, 50]);
  more();
  expect([some.value.length, left.value]).toEqual([450, 0]);
  rows.value = [7];
  expect([some.value, left.value]).toEqual([[7], 0]);
});
