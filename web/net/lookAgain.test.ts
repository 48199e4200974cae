import { expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import { tell } from '../testing/houseEvents.ts';
import { late } from '../../contract/testing/late.ts';
import { lookAgain } from './lookAgain.ts';
import { shown } from './shown.ts';

vi.mock('./houseEvents.ts', () => import('../testing/houseEvents.ts'));

/** A list that is looked at, and the answers that have not come yet. */
function slowList() {
  const waiting: ReturnType<typeof late<number>>[] = [];
  const [list, showList] = shown(0);
  const look = vi.fn(() => {
    const answer = late<number>();
    waiting.push(answer);
    return showList(answer.promise);
  });
  const answer = (value: number) => waiting.shift()?.come(value);
  const refuse = () => waiting.shift()?.fail(new Error('not now'));
  return { list, look, answer, refuse, asked: () => waiting.length };
}

it('shows answers however often something happens, and asks for one at a time', async () => {
  const { list, look, answer, asked } = slowList();
  lookAgain(['stock-changed'], look);
  for (let sale = 1; sale <= 5; sale++) {
    // Faster than it is answered.
    for (let times = 0; times < 3; times++) tell({ kind: 'stock-changed' });
    expect(asked()).toBe(1);
    answer(sale);
    await eventually(() => expect(list.value).toBe(sale));
    await eventually(() => expect(asked()).toBe(1));
  }
  expect(look).toHaveBeenCalledTimes(6);
});

it('ends with a look that was begun after all that happened, also when one is refused', async () => {
  const { list, look, answer, refuse } = slowList();
  lookAgain((event) => event.kind === 'stock-changed', look);
  tell({ kind: 'people-changed' });
  expect(look).not.toHaveBeenCalled();
  tell({ kind: 'stock-changed' });
  tell({ kind: 'stock-changed' });
  refuse();
  await eventually(() => expect(look).toHaveBeenCalledTimes(2));
  answer(2);
  await eventually(() => expect(list.value).toBe(2));
  expect(look).toHaveBeenCalledTimes(2);
});

it('looks anew once the line is there again: what was asked before may never be answered', async () => {
  const { list, look, answer, asked } = slowList();
  lookAgain(['stock-changed'], look);
  tell({ kind: 'stock-changed' });
  tell({ kind: 'connected' });
  expect(asked()).toBe(2);
  answer(1);
  answer(2);
  await eventually(() => expect(list.value).toBe(2));
  expect(look).toHaveBeenCalledTimes(2);
});

it('looks no more once it is ended, whatever happened just before', async () => {
  const { look, answer, list } = slowList();
  const end = lookAgain(['stock-changed'], look);
  tell({ kind: 'stock-changed' });
  tell({ kind: 'stock-changed' });
  end();
  answer(1);
  await eventually(() => expect(list.value).toBe(1));
  expect(look).toHaveBeenCalledOnce();
});
