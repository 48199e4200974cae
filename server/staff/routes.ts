import { Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { countersignSchema, signInSchema } from '../../contract/staff.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personIfAny, personOf, SESSION_COOKIE } from '../http/session.ts';
import { idempotencyKey, validate } from '../http/write.ts';
import { countersign, signIn, signOut } from './service.ts';

const COOKIE = { httpOnly: true, sameSite: 'strict', path: '/' } as const;

export function staffRoutes(house: House): Router {
  const router = Router();
  const limit = rateLimit({
    windowMs: 60_000,
    limit: 120,
    standardHeaders: true,
    legacyHeaders: false,
    handler: (_request, _response, next) => next(new Problem(429, 'wait', 'Too many tries. Wait a minute.')),
  });

  router.get('/session', (request, response) => {
    response.json(personIfAny(request) ?? null);
  });

  router.post('/session', limit, async (request, response) => {
    idempotencyKey(request);
    const { token, person } = await signIn(house, await validate(signInSchema, request));
    response.cookie(SESSION_COOKIE, token, COOKIE).json(person);
  });

  router.delete('/session', async (request, response) => {
    idempotencyKey(request);
    const token: unknown = request.cookies[SESSION_COOKIE];
    if (typeof token === 'string') await signOut(house, token, personOf(request));
    response.clearCookie(SESSION_COOKIE, COOKIE).json({});
  });

  // The key is the id of the approval, and a repeat finds it given: the same PIN is asked for again, nothing is doubled.
  router.post('/countersigns', limit, async (request, response) => {
    const person = personOf(request);
    const key = idempotencyKey(request);
    response.json(await countersign(house, person, key, await validate(countersignSchema, request)));
  });

  return router;
}
