import { afterEach, expect, it, vi } from 'vitest';
import { writeSurely } from './api.ts';

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
