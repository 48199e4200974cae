import { v4 as newKey } from 'uuid';
import type { ProblemDetails } from '../../contract/problem.ts';
import { whileLineLives } from './houseEvents.ts';
import { ApiProblem, Unreachable } from './problem.ts';
import { took } from './unsaved.ts';

let signedOut = (): void => {};
let sessions = 0;
/** Somebody signs in: what is answered to whoever was here before says nothing of them. */
export const newSession = (): void => void (sessions += 1);

/** Says what to do when the server knows of no session (any more). */
export function whenSignedOut(then: () => void): void {
  signedOut = then;
}

/**
 * What was asked for and is not there by then does not come: the line is dead, though nobody has said so. What changes
 * something may take its time, as long as the server is heard.
 */
const LONGEST_MS = 60_000;

async function send<T>(method: string, path: string, headers: HeadersInit, body?: string): Promise<T> {
  const session = sessions;
  const lost = () => {
    throw new Unreachable(method !== 'GET');
  };
  const answer = await fetch(`/api${path}`, {
    method,
    headers,
    credentials: 'same-origin',
    signal: (method === 'GET' ? undefined : whileLineLives()) ?? AbortSignal.timeout(LONGEST_MS),
    ...(body === undefined ? {} : { body }),
  }).catch(lost);
  // The answer may get lost on its way, too.
  if (answer.ok && method !== 'GET') took(path);
  if (answer.ok) return (await answer.json().catch(lost)) as T;
  if (!answer.headers.get('content-type')?.startsWith('application/problem+json')) lost();
  const details = (await answer.json().catch(lost)) as ProblemDetails;
  if (details.type === 'not-signed-in' && session === sessions) signedOut();
  throw new ApiProblem(details);
}

/** Sends a file as it is. */
export async function sendFile<T>(path: string, type: string, content: string): Promise<T> {
  return send<T>('PUT', path, { 'content-type': type }, content);
}

export function read<T>(path: string): Promise<T> {
  return send<T>('GET', path, {});
}

/** So long after its answer was lost the same that is asked is a repeat. */
const REPEAT_MS = 2 * 60_000;

/** What is on its way, or whose answer was lost, by what is asked. */
const asked = new Map<string, { key: string; lost: number } | { answer: Promise<unknown> }>();

/**
 * Asks for something once: who asks for the very same while it is on its way hears the same answer, and who asks
 * again because the answer was lost does so with the same key. Whether it was done then, it is done once.
 */
function once<T>(what: string, ask: (key: string) => Promise<T>): Promise<T> {
  const before = asked.get(what);
  if (before && 'answer' in before) return before.answer as Promise<T>;
  const key = before && Date.now() - before.lost < REPEAT_MS ? before.key : newKey();
  const answer = ask(key).then(
    (value) => {
      asked.delete(what);
      return value;
    },
    (error: unknown) => {
      // What only replaces something does no harm when it is done again, and must not be taken for what was undone.
      if (error instanceof Unreachable && what.startsWith('POST')) asked.set(what, { key, lost: Date.now() });
      else asked.delete(what);
      throw error;
    },
  );
  asked.set(what, { answer });
  return answer;
}

type Method = 'POST' | 'PUT' | 'DELETE';

/**
 * Changes something.
 * @param key the same for a repeat of the same write, which then changes nothing; without one, what is asked tells
 * whether it is a repeat
 * @throws Unreachable, ApiProblem
 */
export function write<T>(
  method: Method,
  path: string,
  body?: unknown,
  key?: string,
  more: Record<string, string> = {},
): Promise<T> {
  const content = body === undefined ? undefined : JSON.stringify(body);
  const ask = (itsKey: string) =>
    send<T>(
      method,
      path,
      { 'content-type': 'application/json', 'idempotency-key': itsKey, ...more },
      content,
    );
  return key ? ask(key) : once([method, path, content, ...Object.values(more)].join(' '), ask);
}

/** Changes Setup. @param seen the last change of it that whoever asks has seen */
export function changeSetup<T>(seen: number, method: Method, path: string, body: unknown): Promise<T> {
  return write<T>(method, path, body, undefined, { 'setup-seen': String(seen) });
}

const WAIT_MS = [200, 500, 1000, 2000];

/** Writes, and asks again with the same key for as long as the server cannot be reached. */
export function writeSurely<T>(
  method: Method,
  path: string,
  body: unknown,
  key?: string,
  onWait: () => void = () => {},
): Promise<T> {
  const ask = async (itsKey: string): Promise<T> => {
    for (let tries = 0; ; tries++) {
      try {
        return await write<T>(method, path, body, itsKey);
      } catch (error) {
        if (!(error instanceof Unreachable)) throw error;
        onWait();
        await new Promise((wake) => setTimeout(wake, WAIT_MS[Math.min(tries, WAIT_MS.length - 1)]));
      }
    }
  };
  return key ? ask(key) : once(`${method} ${path} surely ${JSON.stringify(body)}`, ask);
}
