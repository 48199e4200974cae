import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import express, { Router } from 'express';
import { nonceOf } from './security.ts';

const INDEX = 'index.html';

/**
 * Which pages these are: other ones have another edition, for the first of them names its files by what is in them.
 * @returns nothing where none are built
 */
export function editionOf(folder: string): string {
  const index = join(folder, INDEX);
  return existsSync(index) ? createHash('sha256').update(readFileSync(index)).digest('hex').slice(0, 16) : '';
}

/** Serves the built pages; every address that is no file is the application's own. */
export function webPages(folder: string, edition: string): Router {
  const router = Router();
  router.use(
    '/assets',
    express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  router.use(express.static(folder, { index: false }));
  let page: string | undefined;
  router.get('/{*path}', (_request, response) => {
    page ??= readFileSync(join(folder, INDEX), 'utf8');
    response
      .set('cache-control', 'no-store')
      .type('html')
      .send(page.replace('__NONCE__', nonceOf(response)).replace('__EDITION__', edition));
  });
  return router;
}
