import type { Request, RequestHandler } from 'express';
import type { Person } from '../../contract/staff.ts';
import { RIGHTS, type Right } from '../../core/staff/rights.ts';
import type { House } from '../house.ts';
import { findSession } from '../staff/service.ts';
import { Problem } from './problem.ts';

export const SESSION_COOKIE = 'mondrel_session';

const people = new WeakMap<Request, Person>();

/** Finds out who asks, from the session cookie. */
export function recognisePerson(house: House): RequestHandler {
  return async (request, _response, next) => {
    const token: unknown = request.cookies[SESSION_COOKIE];
    const person = typeof token === 'string' ? await findSession(house, token) : undefined;
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
  if (!person) throw new Problem(401, 'not-signed-in', 'Sign in to go on.');
  return person;
}

/** The person who asks, who must have a right. @throws Problem 401 or 403 */
export function personWith(request: Request, right: Right): Person {
  const person = personOf(request);
  if (!person.rights.includes(right)) {
    throw new Problem(403, 'no-right', `${person.name} may not do this: ${RIGHTS[right]}.`, {
      detail: 'Ask someone with more rights to sign in.',
    });
  }
  return person;
}

/** Refuses writes that another site made the browser send. */
export const sameOriginOnly: RequestHandler = (request, _response, next) => {
  const origin = request.get('origin');
  const fromHere = !origin || URL.parse(origin)?.host === request.get('host');
  next(fromHere ? undefined : new Problem(403, 'other-origin', 'This request came from another site.'));
};
