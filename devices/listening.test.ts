import { afterEach, expect, it } from 'vitest';
import { listening } from './listening.ts';

/** How long a browser keeps a connection that it does not use, in seconds. */
const BROWSER_RESTS = 300;
const closing: (() => void)[] = [];
afterEach(() => closing.splice(0).forEach((close) => close()));

async function open(port: number) {
  const opened = await listening((_request, response) => response.end('here'), port);
  closing.push(() => {
    opened.server.closeAllConnections();
    opened.server.close();
  });
  return opened;
}

it('keeps a connection for longer than who asks: it would close beneath a question', async () => {
  const { url } = await open(0);
  const answer = await fetch(url);
  expect(await answer.text()).toBe('here');
  const [, seconds] = /^timeout=(\d+)$/.exec(answer.headers.get('keep-alive') ?? '') ?? [];
  expect(Number(seconds)).toBeGreaterThan(BROWSER_RESTS);
});

it('says which port is in use', async () => {
  const port = Number(new URL((await open(0)).url).port);
  await expect(open(port)).rejects.toThrow(`Port ${port} is in use`);
});
