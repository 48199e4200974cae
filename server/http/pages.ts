import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import express, { Router } from 'express';
import { nonceOf } from './security.ts';

/** Serves the built pages; every address that is no file is the application's own. */
export function webPages(folder: string): Router {
  const router = Router();
  router.use(
    '/assets',
    express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  router.use(express.static(folder, { index: false }));
  let page: string | undefined;
  router.get('/{*path}', (_request, response) => {
    page ??= readFileSync(join(folder, 'index.html'), 'utf8');
    response
      .set('cache-control', 'no-store')
      .type('html')
      .send(page.replace('__NONCE__', nonceOf(response)));
  });
  return router;
}
