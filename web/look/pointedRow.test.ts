import { describe, expect, it } from 'vitest';
import { effectScope, nextTick, ref, shallowRef } from 'vue';
import { usePointedRow } from './pointedRow.ts';

/** A list with these rows, of which the test says when they are the answer. */
function list(...ids: number[]) {
  const rows = shallowRef(ids.map((id) => ({ id })));
  const busy = ref(false);
  const opened: number[] = [];
  const pointer = effectScope().run(() =>
    usePointedRow(
      () => rows.value,
      () => busy.value,
      ({ id }) => opened.push(id),
    ),
  );
  if (!pointer) throw new Error('there is no list');
  const ask = async () => {
    busy.value = true;
    await nextTick();
  };
  const answer = async (...now: number[]) => {
    rows.value = now.map((id) => ({ id }));
    busy.value = false;
    await nextTick();
  };
  return { ...pointer, ask, answer, opened };
}

describe('the row that is pointed at', () => {
  it('is opened by Enter', () => {
    const { move, enter, opened } = list(11, 12, 13);
    move(1);
    move(1);
    move(-1);
    expect([enter(), opened]).toEqual([true, [12]]);
  });

  it('is the first again when something else is asked for', async () => {
    const { move, enter, ask, answer, opened } = list(11, 12, 13);
    move(1);
    await ask();
    await answer(11, 12);
    enter();
    expect(opened).toEqual([11]);
  });

  it('is opened once the answer is there, where the arrows chose it before', async () => {
    const { move, enter, ask, answer, opened } = list(11, 12);
    await ask();
    move(1);
    enter();
    expect(opened).toEqual([]);
    await answer(10, 12, 14);
    expect(opened).toEqual([12]);
  });

  it('is nobody whom only the answer before showed, unless nobody else is meant', async () => {
    const { move, enter, ask, answer, opened } = list(11, 12);
    await ask();
    enter();
    await answer(11, 20);
    await ask();
    move(1);
    enter();
    await answer(21, 22);
    expect(opened).toEqual([]);
    await ask();
    enter();
    await answer(30);
    expect(opened).toEqual([30]);
  });

  it('stays the same one when rows come and go around it', async () => {
    const { at, move, enter, answer, opened } = list(11, 12, 13);
    move(1);
    await answer(9, 10, 11, 12, 13);
    expect(at.value).toBe(3);
    await answer(12);
    enter();
    expect(opened).toEqual([12]);
    await answer();
    expect([enter(), opened]).toEqual([false, [12]]);
  });
});
