import { Router } from 'express';
import { firstRunSchema } from '../../contract/setup.ts';
import type { House } from '../house.ts';
import { personOf } from '../http/session.ts';
import { idempotencyKey, validate } from '../http/write.ts';
import { setUpShop, tillFacts, welcome } from './service.ts';

export function setupRoutes(house: House): Router {
  const router = Router();

  router.get('/welcome', async (_request, response) => {
    response.json(await welcome(house));
  });

  // Nobody can sign in before there is a shop; the shop itself is the key that makes a repeat harmless.
  router.post('/shop', async (request, response) => {
    idempotencyKey(request);
    await setUpShop(house, await validate(firstRunSchema, request));
    response.json({});
  });

  router.get('/till', async (request, response) => {
    response.json(await tillFacts(house, personOf(request).tillId));
  });

  return router;
}
