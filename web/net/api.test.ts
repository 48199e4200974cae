import { afterEach, describe, expect, it, vi } from 'vitest';
import { late } from '../../contract/testing/late.ts';
import { newSession, read, whenSignedOut, write, writeSurely } from './api.ts';

afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

it('asks again with the same key where an answer broke off in the middle', async () => {
  vi.useFakeTimers();
  const keys: (string | null)[] = [];
  vi.stubGlobal('fetch', (_path: string, { headers }: RequestInit) => {
    keys.push(new Headers(headers).get('idempotency-key'));
    const body = keys.length === 1 ? '{"paid": 3' : '{"paid": 300}';
    return Promise.resolve(new Response(body, { status: 200 }));
  });
  const waited = vi.fn();
  const answer = writeSurely<{ paid: number }>('POST', '/counter/sales', {}, undefined, waited);
  await vi.runAllTimersAsync();
  expect(await answer).toEqual({ paid: 300 });
  expect(waited).toHaveBeenCalledOnce();
  expect(new Set(keys).size).toBe(1);
});

/** A house that answers when it is told to. @returns the keys of what it was asked, and what is not answered yet */
function slowHouse() {
  const keys: (string | null)[] = [];
  const waiting: ReturnType<typeof late<Response>>[] = [];
  vi.stubGlobal('fetch', (_path: string, { headers }: RequestInit) => {
    keys.push(new Headers(headers).get('idempotency-key'));
    const answer = late<Response>();
    waiting.push(answer);
    return answer.promise;
  });
  const answer = (body: unknown, status = 200) =>
    waiting.shift()?.come(
      new Response(JSON.stringify(body), {
        status,
        headers: { 'content-type': status === 200 ? 'application/json' : 'application/problem+json' },
      }),
    );
  return { keys, answer, loseAnswer: () => waiting.shift()?.fail(new Error('cut')) };
}

describe('what is asked twice', () => {
  const move = { change: 3000, reason: 'Found' };

  for (const [name, ask] of [
    ['write', write],
    ['writeSurely', writeSurely],
  ] as const) {
    it(`is asked once while it is on its way: ${name}`, async () => {
      const { keys, answer } = slowHouse();
      const both = Promise.all([
        ask('POST', '/goods/items/1/moves', move),
        ask('POST', '/goods/items/1/moves', move),
      ]);
      answer({ onHand: 8 });
      expect(await both).toEqual([{ onHand: 8 }, { onHand: 8 }]);
      expect(keys).toHaveLength(1);
    });
  }

  it('is another request once the first is answered, or where it says something else', async () => {
    const { keys, answer } = slowHouse();
    const first = write('POST', '/goods/items/1/moves', move);
    const other = write('POST', '/goods/items/1/moves', { ...move, change: 4000 });
    answer({});
    answer({});
    await Promise.all([first, other]);
    const again = write('POST', '/goods/items/1/moves', move);
    answer({});
    await again;
    expect(new Set(keys).size).toBe(3);
  });

  it('has the same key where the answer was lost, so that it is done once', async () => {
    const { keys, answer, loseAnswer } = slowHouse();
    const lost = write('POST', '/goods/items/1/moves', move);
    loseAnswer();
    await expect(lost).rejects.toThrow('The server does not answer.');
    const again = write('POST', '/goods/items/1/moves', move);
    answer({ onHand: 8 });
    await again;
    expect(new Set(keys).size).toBe(1);
  });

  it('has a key of its own where it replaces something: it may have been put back meanwhile', async () => {
    const { keys, answer, loseAnswer } = slowHouse();
    const lost = write('PUT', '/setup/staff/3', { active: true });
    loseAnswer();
    await expect(lost).rejects.toThrow('The server does not answer.');
    for (const active of [false, true]) {
      const next = write('PUT', '/setup/staff/3', { active });
      answer({});
      await next;
    }
    expect(new Set(keys).size).toBe(3);
  });

  it('has a key of its own where the first was refused, or was asked long ago', async () => {
    vi.useFakeTimers();
    const { keys, answer, loseAnswer } = slowHouse();
    const refused = write('POST', '/goods/items/1/moves', move);
    answer({ type: 'not-valid', title: 'How many?' }, 422);
    await expect(refused).rejects.toThrow('How many?');
    const lost = write('POST', '/goods/items/1/moves', move);
    loseAnswer();
    await expect(lost).rejects.toThrow('The server does not answer.');
    vi.advanceTimersByTime(10 * 60_000);
    const later = write('POST', '/goods/items/1/moves', move);
    answer({});
    await later;
    expect(new Set(keys).size).toBe(3);
  });
});

it('signs nobody out for an answer to whoever was here before', async () => {
  const refusal = () =>
    new Response(JSON.stringify({ type: 'not-signed-in', status: 401, title: 'Sign in.' }), {
      status: 401,
      headers: { 'content-type': 'application/problem+json' },
    });
  const answer = late<Response>();
  vi.stubGlobal('fetch', () => answer.promise);
  const signedOut = vi.fn();
  whenSignedOut(signedOut);
  const asked = read('/goods').catch(() => {});
  newSession();
  answer.come(refusal());
  await asked;
  expect(signedOut).not.toHaveBeenCalled();
  vi.stubGlobal('fetch', () => Promise.resolve(refusal()));
  await read('/goods').catch(() => {});
  expect(signedOut).toHaveBeenCalledOnce();
});
