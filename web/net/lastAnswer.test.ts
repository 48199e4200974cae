import { expect, it } from 'vitest';
import { lastAnswer } from './lastAnswer.ts';

it('gives the answer to the last question only, in whatever order they come', async () => {
  const last = lastAnswer();
  let answer = (_words: string): void => {};
  const first = last(new Promise<string>((done) => (answer = done)));
  const second = last(Promise.resolve('new'));
  expect(await second).toBe('new');
  answer('old');
  expect(await first).toBeUndefined();
  // Whoever asked before finds the last answer taken when they go on.
  let taken = '';
  const take = async (question: Promise<string>) => (taken = (await last(question)) ?? taken);
  const early = take(Promise.resolve('early'));
  const late = take(new Promise<string>((done) => (answer = done)));
  await Promise.resolve();
  answer('late');
  await early;
  expect(taken).toBe('late');
  await late;
  await expect(last(Promise.reject(new Error('not reached')))).rejects.toThrow('not reached');
});
