import { Router, type Request } from 'express';
import { rateLimit } from 'express-rate-limit';
import { countersignSchema, signInSchema, signOutEverywhereSchema } from '../../contract/staff.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personIfAny, personOf, personWith, SESSION_COOKIE } from '../http/session.ts';
import { idempotencyKey, validate } from '../http/write.ts';
import { sourceOf } from './source.ts';
import { countersign, signIn, signOut, signOutEverywhere } from './service.ts';

/** With HTTPS, the cookie never goes out without it. */
const cookieFor = ({ secure }: Request) =>
  ({ httpOnly: true, sameSite: 'strict', path: '/', secure }) as const;

export function staffRoutes(house: House): Router {
  const router = Router();
  const limit = rateLimit({
    windowMs: 60_000,
    limit: 120,
    standardHeaders: true,
    legacyHeaders: false,
    handler: (_request, _response, next) => next(new Problem('wait', 'Too many tries. Wait a minute.')),
  });

  router.get('/session', (request, response) => {
    response.json(personIfAny(request) ?? null);
  });

  router.post('/session', limit, async (request, response) => {
    idempotencyKey(request);
    const { token, person } = await signIn(house, await validate(signInSchema, request), sourceOf(request));
    response.cookie(SESSION_COOKIE, token, cookieFor(request)).json(person);
  });

  router.delete('/session', async (request, response) => {
    idempotencyKey(request);
    const token: unknown = request.cookies[SESSION_COOKIE];
    if (typeof token === 'string') await signOut(house, token, personOf(request));
    response.clearCookie(SESSION_COOKIE, cookieFor(request)).json({});
  });

  // The key is the id of the approval, and a repeat finds it given: the same PIN is asked for again, nothing is
  // doubled.
  router.post('/countersigns', limit, async (request, response) => {
    const person = personOf(request);
    const key = idempotencyKey(request);
    const wanted = await validate(countersignSchema, request);
    response.json(await countersign(house, person, key, wanted, sourceOf(request)));
  });

  // Wherever somebody is still signed in: their own sessions, or another's for who sets up the shop.
  router.post('/sign-out-everywhere', async (request, response) => {
    const person = personOf(request);
    idempotencyKey(request);
    const { staffId } = await validate(signOutEverywhereSchema, request);
    if (staffId !== person.staffId) personWith(request, 'shop.set-up');
    await house.database.write((sql) => signOutEverywhere(sql, staffId, person, house.clock.now()));
    response.json({});
  });

  return router;
}
