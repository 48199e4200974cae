import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { Unreachable } from './problem.ts';
import { untilAnswered } from './untilAnswered.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const away = () => Promise.reject(new Unreachable(false));

it('asks once a second until it is answered, and hears why it takes so long', async () => {
  const heard = vi.fn();
  const ask = vi.fn(() => Promise.resolve('there'));
  ask.mockImplementationOnce(away).mockImplementationOnce(away);
  const answer = untilAnswered(ask, heard);
  await vi.advanceTimersByTimeAsync(999);
  expect(ask).toHaveBeenCalledTimes(1);
  await vi.advanceTimersByTimeAsync(1001);
  expect(await answer).toBe('there');
  expect(heard.mock.calls).toEqual([[new Unreachable(false)], [new Unreachable(false)]]);
});

it('asks no more once nobody waits for it, or where asking again is of no use', async () => {
  let wanted = true;
  const ask = vi.fn(away);
  const answer = untilAnswered(
    ask,
    () => {},
    () => wanted,
  );
  await vi.advanceTimersByTimeAsync(0);
  wanted = false;
  await vi.advanceTimersByTimeAsync(5000);
  expect(await answer).toBeUndefined();
  await expect(
    untilAnswered(ask, (error) => {
      throw error;
    }),
  ).rejects.toThrow('The server does not answer.');
  expect(ask).toHaveBeenCalledTimes(2);
});
