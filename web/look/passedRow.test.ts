import { describe, expect, it } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';
import { usePassedRow } from './passedRow.ts';

const ROWS = [{ id: 'a' }, { id: 'b' }, { id: 'c' }];

/** A list whose second row is looked at, until an arrow may leave it. */
function list(leaves: (id: string) => Promise<boolean> | boolean) {
  const open = ref('b');
  const passed: string[] = [];
  const move = effectScope().run(() =>
    usePassedRow(
      () => ROWS,
      () => open.value,
      async ({ id }) => {
        passed.push(id);
        if (await leaves(id)) open.value = id;
      },
    ),
  );
  if (!move) throw new Error('no scope');
  return { open, passed, move };
}

describe('Arrows in a list beside something', () => {
  it('look at the row before or after, and stop at both ends', async () => {
    const { open, passed, move } = list(() => true);
    await move(1);
    expect(open.value).toBe('c');
    await move(1);
    for (let n = 0; n < 3; n += 1) await move(-1);
    expect([open.value, passed]).toEqual(['a', ['c', 'b', 'a']]);
  });

  it('go on from where they are while nothing is looked at yet', async () => {
    const { passed, move } = list(() => new Promise(() => {}));
    void move(-1);
    void move(1);
    void move(1);
    expect(passed).toEqual(['a', 'b', 'c']);
  });

  it('go on from what is still looked at, where it is not left', async () => {
    const { open, passed, move } = list((id) => id !== 'a');
    await move(-1);
    await move(-1);
    await move(1);
    expect([open.value, passed]).toEqual(['c', ['a', 'a', 'c']]);
  });

  it('go on from what was looked at last, and begin with the first row where that is gone', async () => {
    const { open, passed, move } = list(() => true);
    open.value = '';
    await nextTick();
    await move(1);
    open.value = 'sold';
    await nextTick();
    await move(1);
    expect(passed).toEqual(['c', 'a']);
  });
});
