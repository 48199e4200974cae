import { describe, expect, it } from 'vitest';
import { late } from '../../contract/testing/late.ts';
import { lookedUp } from './lookedUp.ts';

/** Looks up two numbers, one after the other. */
function two() {
  const answers = { first: late<string>(), second: late<string>() };
  const { found, look, forget } = lookedUp((number: string) => answers[number as 'first' | 'second'].promise);
  return { ...answers, found, forget, looks: [look('first'), look('second')] as const };
}

describe('what is looked up by a number', () => {
  it('is what the last number has, whatever is answered first', async () => {
    const { first, second, found, looks } = two();
    first.come('card 1');
    await Promise.resolve();
    expect(found.value).toBeNull();
    second.come('card 2');
    expect(await Promise.all(looks)).toEqual([undefined, 'card 2']);
    expect(found.value).toBe('card 2');
  });

  it('is refused for the number that stands there only', async () => {
    const { first, second, found, looks } = two();
    second.come('card 2');
    await looks[1];
    first.fail(new Error('No card has this number.'));
    expect(await looks[0]).toBeUndefined();
    expect(found.value).toBe('card 2');
    const { look } = lookedUp(() => Promise.reject(new Error('No card has this number.')));
    await expect(look('third')).rejects.toThrow('No card has this number.');
  });

  it('is nothing once another number is typed', async () => {
    const { first, second, found, forget, looks } = two();
    forget();
    first.come('card 1');
    second.come('card 2');
    expect(await Promise.all(looks)).toEqual([undefined, undefined]);
    expect(found.value).toBeNull();
  });
});
