import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, ref } from 'vue';
import { late } from '../../contract/testing/late.ts';
import { useLookUp } from './lookUp.ts';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());
const settled = () => vi.advanceTimersByTimeAsync(0);
const stopped = () => vi.advanceTimersByTimeAsync(150);

/** A look-up whose answers come when the test says so, by the words that were asked for. */
function lookUp(wait: number) {
  const typed = ref('');
  const asked = new Map<string, ReturnType<typeof late<string[]>>>();
  const search = (words: string) => {
    const answer = late<string[]>();
    asked.set(words, answer);
    return answer.promise;
  };
  const made = effectScope().run(() => useLookUp(typed, search, wait));
  if (!made) throw new Error('there is no look-up');
  return { typed, asked, ...made };
}

describe('what is looked for', () => {
  it('is what was found for what is typed now, whatever is answered first', async () => {
    const { typed, asked, found, pointedAt } = lookUp(0);
    typed.value = 'dru';
    typed.value = 'drum';
    asked.get('drum')?.come(['Drum']);
    asked.get('dru')?.come(['Drumsticks', 'Drum']);
    await settled();
    expect(found.value).toEqual(['Drum']);
    expect(await pointedAt()).toBe('Drum');
  });

  it('is nothing that stood there for other words when Enter came', async () => {
    const { typed, asked, pointedAt } = lookUp(150);
    typed.value = 'dru';
    await stopped();
    asked.get('dru')?.come(['Drumsticks', 'Drum']);
    await settled();
    typed.value = 'kazoo';
    const taken = pointedAt();
    await stopped();
    asked.get('kazoo')?.come(['Kazoo, tin', 'Kazoo, wood']);
    expect(await taken).toBeUndefined();
    // Now both are in sight.
    expect(await pointedAt()).toBe('Kazoo, tin');
  });

  it('is taken at once where nothing else fits', async () => {
    const { typed, asked, pointedAt } = lookUp(150);
    typed.value = 'kaz-1';
    const taken = pointedAt();
    await stopped();
    asked.get('kaz-1')?.come(['Kazoo, tin']);
    expect(await taken).toBe('Kazoo, tin');
  });

  it('is not said to be nothing before that is known', async () => {
    const { typed, asked, none, looking } = lookUp(150);
    const said = () => [none.value, looking.value];
    typed.value = 'kazoo';
    expect(said()).toEqual([false, true]);
    await stopped();
    expect(said()).toEqual([false, true]);
    asked.get('kazoo')?.come([]);
    await settled();
    expect(said()).toEqual([true, false]);
    typed.value = 'kazoos';
    expect(said()).toEqual([false, true]);
    typed.value = '';
    await settled();
    expect(said()).toEqual([false, false]);
  });

  it('is asked for once, when nobody types any more', async () => {
    const { typed, asked } = lookUp(150);
    for (const words of ['k', 'ka', 'kaz']) typed.value = words;
    await stopped();
    expect([...asked.keys()]).toEqual(['kaz']);
  });

  it('says what is wrong where it cannot be asked for, and finds nothing until it can', async () => {
    const { typed, asked, found, none, wrong } = lookUp(0);
    typed.value = 'drum';
    asked.get('drum')?.fail(new Error('The server does not answer.'));
    await settled();
    expect([wrong.value, none.value, found.value]).toEqual(['The server does not answer.', false, []]);
    typed.value = 'drums';
    expect(wrong.value).toBe('');
    asked.get('drums')?.come([]);
    await settled();
    expect(none.value).toBe(true);
  });

  it('is pointed at with the arrows, from first to last', async () => {
    const { typed, asked, move, pointedAt } = lookUp(0);
    typed.value = 'k';
    asked.get('k')?.come(['Kazoo', 'Keys']);
    await settled();
    move(-1);
    expect(await pointedAt()).toBe('Kazoo');
    for (const by of [1, 1, 1] as const) move(by);
    expect(await pointedAt()).toBe('Keys');
  });
});
