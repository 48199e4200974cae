import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { write } from './api.ts';
import { connected, hear, startHearing, stopHearing } from './houseEvents.ts';
import { Unreachable } from './problem.ts';

/** Lines to the server that say what a test lets them say. */
const lines: Line[] = [];
class Line extends EventTarget {
  static readonly CLOSED = 2;
  readyState = 1;
  constructor() {
    super();
    lines.push(this);
  }
  close(): void {
    this.readyState = Line.CLOSED;
  }
  say(kind: string, data = '{}'): void {
    this.dispatchEvent(new MessageEvent(kind, { data }));
  }
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('EventSource', Line);
  lines.length = 0;
});
afterEach(() => {
  stopHearing();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

it('waits for the line, but not for one that does not come', async () => {
  const there = startHearing();
  lines[0]?.say('hello');
  await there;
  const late = startHearing();
  await vi.advanceTimersByTimeAsync(1000);
  await late;
});

it('takes a line that falls silent for lost: another one is begun, and nothing waits for an answer any more', async () => {
  vi.stubGlobal('fetch', (_path: string, { signal }: RequestInit) => {
    const never = new Promise<Response>((_answer, fail) => {
      signal?.addEventListener('abort', () => fail(new Error('given up')));
    });
    return never;
  });
  const told = vi.fn();
  const stop = hear(told);
  void startHearing();
  lines[0]?.say('hello');
  for (let beat = 0; beat < 5; beat++) {
    await vi.advanceTimersByTimeAsync(10_000);
    lines[0]?.say(beat % 2 === 0 ? 'here' : 'message', '{"kind":"stock-changed"}');
  }
  expect([lines.length, connected.value]).toEqual([1, true]);
  const asked = write('POST', '/drawer/cash', {}).catch((problem: unknown) => problem);
  await vi.advanceTimersByTimeAsync(15_000);
  expect(await asked).toBeInstanceOf(Unreachable);
  expect([lines.length, lines[0]?.readyState, connected.value]).toEqual([2, Line.CLOSED, false]);
  told.mockClear();
  lines[1]?.say('hello');
  expect(connected.value).toBe(true);
  expect(told.mock.calls).toEqual([[{ kind: 'connected' }]]);
  stop();
});

it('hears no more once it is told to stop, however long it is silent', async () => {
  void startHearing();
  stopHearing();
  await vi.advanceTimersByTimeAsync(120_000);
  expect(lines).toHaveLength(1);
});
