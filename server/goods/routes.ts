import { Router } from 'express';
import type { Catalogue } from '../../contract/goods.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personOf } from '../http/session.ts';
import { readTill } from '../setup/store.ts';
import { catalogueRevision, itemFacts, itemsSince, removedSince } from './store.ts';

export function goodsRoutes({ database }: House): Router {
  const router = Router();

  router.get('/catalogue', async (request, response) => {
    const { tillId } = personOf(request);
    const since = Math.max(0, Math.trunc(Number(request.query.since ?? 0)) || 0);
    const answer = await database.ask(async (sql): Promise<Catalogue> => {
      const { placeId } = await readTill(sql, tillId);
      // Read first: what changes between the two statements is sent again next time, never left out.
      const revision = await catalogueRevision(sql);
      return {
        revision,
        whole: since === 0,
        items: await itemsSince(sql, placeId, since),
        removed: since === 0 ? [] : await removedSince(sql, since),
      };
    });
    response.json(answer);
  });

  router.get('/items/:id', async (request, response) => {
    const { tillId } = personOf(request);
    const id = Number(request.params.id);
    const facts = await database.ask(async (sql) => {
      const { placeId } = await readTill(sql, tillId);
      return Number.isSafeInteger(id) && id < 2 ** 31 ? itemFacts(sql, id, placeId) : undefined;
    });
    if (!facts) throw new Problem(404, 'no-item', 'There is no such item.');
    response.json(facts);
  });

  return router;
}
