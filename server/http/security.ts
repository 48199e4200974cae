import { randomBytes } from 'node:crypto';
import type { RequestHandler, Response } from 'express';
import helmet from 'helmet';

/** The nonce of an answer, for the style sheets that theme and charts make at run time. */
export function nonceOf(response: Response): string {
  return String(response.locals.nonce);
}

/** Security headers with a Content-Security-Policy under which only what ships with the application runs. */
export function securityHeaders(): RequestHandler {
  const headers = helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        workerSrc: ["'self'"],
        styleSrc: ["'self'", (_request, response) => `'nonce-${nonceOf(response as Response)}'`],
        imgSrc: ["'self'", 'data:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        manifestSrc: ["'self'"],
        frameSrc: ["'self'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'self'"],
      },
    },
    // The shop's own network mostly has no certificates; a proxy that has one can add this header.
    strictTransportSecurity: false,
  });
  return (request, response, next) => {
    response.locals.nonce = randomBytes(16).toString('base64');
    headers(request, response, next);
  };
}
