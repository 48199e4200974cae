import { Router } from 'express';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { idempotencyKey } from '../http/write.ts';

export function backupRoutes({ backups }: House): Router {
  const router = Router();

  router.get('/', async (request, response) => {
    personWith(request, 'shop.set-up');
    response.json(await backups.facts());
  });

  // A repeat waits for the one that is being made, or makes another one: either way there is a good one.
  router.post('/', async (request, response) => {
    personWith(request, 'shop.set-up');
    idempotencyKey(request);
    const file = await backups.make().catch((error: unknown) => {
      throw new Problem('backup-failed', 'No backup was made.', {
        detail: error instanceof Error ? error.message : String(error),
      });
    });
    response.json(file);
  });

  return router;
}
