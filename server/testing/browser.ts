import { v4 as newKey } from 'uuid';

export interface Answer<T> {
  status: number;
  body: T;
  headers: Headers;
}

/** Asks the server as one browser, with its own cookies. */
export interface Browser {
  ask<T = Record<string, unknown>>(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<Answer<T>>;
  signIn(pin: string, tillId: number): Promise<void>;
  /** Sends whatever it is given, as it is. */
  raw(
    method: string,
    path: string,
    headers: Record<string, string>,
    body?: string,
  ): Promise<{ status: number; text: string }>;
  /** Listens to what happens, as a window does. */
  listen(signal: AbortSignal): Promise<Response>;
}

/** A change of Setup later than any. */
const JUST_NOW = String(Number.MAX_SAFE_INTEGER);

/** A browser that talks to the server at an address. */
export function browserOf(url: () => string): Browser {
  let cookie = '';
  const browser: Browser = {
    async ask<T>(method: string, path: string, body?: unknown, headers: Record<string, string> = {}) {
      const answer = await fetch(`${url()}/api${path}`, {
        method,
        headers: {
          'content-type': 'application/json',
          cookie,
          origin: url(),
          // Whoever changes Setup in a test has just looked, where they do not say otherwise.
          ...(method === 'GET' ? {} : { 'idempotency-key': newKey(), 'setup-seen': JUST_NOW }),
          ...headers,
        },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
      const set = answer.headers.getSetCookie()[0];
      if (set) cookie = set.split(';')[0] ?? '';
      const text = await answer.text();
      const isJson = answer.headers.get('content-type')?.includes('json');
      return {
        status: answer.status,
        body: (isJson ? JSON.parse(text) : text) as T,
        headers: answer.headers,
      };
    },
    async raw(method, path, headers, body) {
      const answer = await fetch(`${url()}/api${path}`, {
        method,
        headers: { cookie, origin: url(), ...headers },
        ...(body === undefined ? {} : { body }),
      });
      return { status: answer.status, text: await answer.text() };
    },
    listen(signal) {
      return fetch(`${url()}/api/events`, { headers: { cookie }, signal });
    },
    async signIn(pin, tillId) {
      const { status, body } = await browser.ask('POST', '/staff/session', { pin, tillId });
      if (status !== 200) throw new Error(`signing in failed: ${JSON.stringify(body)}`);
    },
  };
  return browser;
}

/** Counts a float of 200.00 and opens the drawer. */
export async function openDrawer(browser: Browser): Promise<void> {
  const { status } = await browser.ask('POST', '/drawer/shifts', { pieces: { 2000: 5, 1000: 5, 100: 50 } });
  if (status !== 200) throw new Error('the drawer could not be opened');
}
