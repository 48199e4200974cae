import type { Request, RequestHandler } from 'express';
import type { Person } from '../../contract/staff.ts';
import { mayNotWords, type Right } from '../../core/staff/rights.ts';
import { isKeepable } from './plausible.ts';
import { Problem } from './problem.ts';

export const SESSION_COOKIE = 'mondrel_session';

const people = new WeakMap<Request, Person>();

/** Finds out who asks, from the session cookie. @param find who a cookie's token stands for */
export function recognisePerson(find: (token: string) => Promise<Person | undefined>): RequestHandler {
  return async (request, _response, next) => {
    const token: unknown = request.cookies[SESSION_COOKIE];
    const person = typeof token === 'string' ? await find(token) : undefined;
    if (person) people.set(request, person);
    next();
  };
}

/** The person who asks, if anybody is signed in. */
export function personIfAny(request: Request): Person | undefined {
  return people.get(request);
}

/** The person who asks. @throws Problem 401 when nobody is signed in */
export function personOf(request: Request): Person {
  const person = people.get(request);
  if (!person) throw new Problem('not-signed-in', 'Sign in to go on.');
  return person;
}

/** The person who asks, who must have a right. @throws Problem 401 or 403 */
export function personWith(request: Request, right: Right): Person {
  const person = personOf(request);
  if (!person.rights.includes(right)) {
    const [words, detail] = mayNotWords(person.name, right);
    throw new Problem('no-right', words, { detail });
  }
  return person;
}

const READS = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Refuses writes that another site made the browser send, and those that do not say where they come from. */
export const sameOriginOnly: RequestHandler = (request, _response, next) => {
  const origin = request.get('origin');
  const fromHere =
    origin === undefined ? READS.has(request.method) : URL.parse(origin)?.host === request.host;
  next(fromHere ? undefined : new Problem('other-origin', 'This request came from another site.'));
};

/** Refuses requests for hosts that the shop does not name, where it names its own. */
export const namedHostsOnly =
  (hosts: readonly string[]): RequestHandler =>
  (request, _response, next) => {
    const known = hosts.length === 0 || hosts.includes(request.hostname.toLowerCase());
    next(known ? undefined : new Problem('unknown-host', 'This server does not answer for that name.'));
  };

/** Refuses addresses that hold what cannot be kept. */
export const plausibleAddress: RequestHandler = (request, _response, next) => {
  try {
    if (isKeepable(decodeURIComponent(request.url.replaceAll('+', ' ')))) return next();
  } catch {
    // Bad escapes.
  }
  next(new Problem('not-an-address', 'The address could not be read.'));
};
