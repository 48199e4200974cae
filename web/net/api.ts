import { v4 as newKey } from 'uuid';
import type { ProblemDetails } from '../../contract/problem.ts';
import { ApiProblem, Unreachable } from './problem.ts';

let signedOut = (): void => {};

/** Says what to do when the server knows of no session (any more). */
export function whenSignedOut(then: () => void): void {
  signedOut = then;
}

async function send<T>(method: string, path: string, headers: HeadersInit, body?: string): Promise<T> {
  const lost = () => {
    throw new Unreachable();
  };
  const answer = await fetch(`/api${path}`, {
    method,
    headers,
    credentials: 'same-origin',
    ...(body === undefined ? {} : { body }),
  }).catch(lost);
  // The answer may get lost on its way, too.
  if (answer.ok) return (await answer.json().catch(lost)) as T;
  if (!answer.headers.get('content-type')?.startsWith('application/problem+json')) throw new Unreachable();
  const details = (await answer.json().catch(lost)) as ProblemDetails;
  if (details.type === 'not-signed-in') signedOut();
  throw new ApiProblem(details);
}

/** Sends a file as it is. */
export async function sendFile<T>(path: string, type: string, content: string): Promise<T> {
  return send<T>('PUT', path, { 'content-type': type }, content);
}

export function read<T>(path: string): Promise<T> {
  return send<T>('GET', path, {});
}

/** @param key the same for a repeat of the same write, which then changes nothing */
export function write<T>(
  method: 'POST' | 'PUT' | 'DELETE',
  path: string,
  body?: unknown,
  key = newKey(),
  more: Record<string, string> = {},
): Promise<T> {
  const headers = { 'content-type': 'application/json', 'idempotency-key': key, ...more };
  return send<T>(method, path, headers, body === undefined ? undefined : JSON.stringify(body));
}

/** Changes Setup. @param seen the last change of it that whoever asks has seen */
export function changeSetup<T>(
  seen: number,
  method: 'POST' | 'PUT' | 'DELETE',
  path: string,
  body: unknown,
): Promise<T> {
  return write<T>(method, path, body, newKey(), { 'setup-seen': String(seen) });
}

const WAIT_MS = [200, 500, 1000, 2000];

/** Writes, and asks again with the same key for as long as the server cannot be reached. */
export async function writeSurely<T>(
  method: 'POST' | 'PUT' | 'DELETE',
  path: string,
  body: unknown,
  key = newKey(),
  onWait: () => void = () => {},
): Promise<T> {
  for (let tries = 0; ; tries++) {
    try {
      return await write<T>(method, path, body, key);
    } catch (error) {
      if (!(error instanceof Unreachable)) throw error;
      onWait();
      await new Promise((wake) => setTimeout(wake, WAIT_MS[Math.min(tries, WAIT_MS.length - 1)]));
    }
  }
}
