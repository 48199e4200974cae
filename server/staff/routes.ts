import { Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { signInSchema } from '../../contract/staff.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personIfAny, personOf, SESSION_COOKIE } from '../http/session.ts';
import { idempotencyKey, validate } from '../http/write.ts';
import { signIn, signOut } from './service.ts';

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

  return router;
}
