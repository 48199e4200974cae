import type { Request, RequestHandler } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import { personIfAny } from './session.ts';

const WINDOW_MS = 10_000;
/** No till is refused more often than that in the window. */
const REFUSALS = 30;

/** How long somebody waits whose requests were refused again and again. */
export const REFUSED_WAIT_MS = 250;

const keyOf = (request: Request): string => {
  const person = personIfAny(request);
  return person ? `session ${person.sessionId}` : ipKeyGenerator(request.ip ?? '');
};

/**
 * Whoever is refused again and again waits before being looked at: a session, or an address where nobody is signed in.
 * Others are not held up by them.
 */
export const slowRefused = (waitMs: number): RequestHandler =>
  rateLimit({
    windowMs: WINDOW_MS,
    limit: REFUSALS,
    skipSuccessfulRequests: true,
    standardHeaders: false,
    legacyHeaders: false,
    keyGenerator: keyOf,
    handler: (_request, _response, next) => void setTimeout(next, waitMs),
  });
