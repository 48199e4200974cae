import { Router } from 'express';
import { string } from '../../contract/yup.ts';
import { holdSchema, type Hold } from '../../contract/waiting.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { idempotencyKey, write } from '../http/write.ts';
import { orderRoutes } from './orderRoutes.ts';
import { relayRoutes } from './relayRoutes.ts';
import { promiseRoutes } from './promiseRoutes.ts';
import { holdBasket, takeUp, waitingBaskets } from './service.ts';

const uuid = string().uuid().required();

export function waitingRoutes(house: House): Router {
  const router = Router();
  router.use('/promises', promiseRoutes(house));
  router.use('/orders', orderRoutes(house));
  router.use('/relays', relayRoutes(house));

  router.get('/held', async (request, response) => {
    personWith(request, 'sell');
    response.json(await house.database.ask(waitingBaskets));
  });

  router.post(
    '/held',
    write(house, 'sell', holdSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(() => {
        house.events.tell({ kind: 'held-changed', forTill: body.forTill });
        house.printing.wake();
      });
      // The key becomes the id: asking again finds the basket held.
      return holdBasket(sql, person, idempotencyKey(request), body as Hold, house.clock.now());
    }),
  );

  router.post(
    '/held/:id/taken',
    write(house, 'sell', null, async ({ sql, person, request, afterwards }) => {
      const { id } = request.params;
      if (!uuid.isValidSync(id)) throw new Problem('no-basket', 'There is no such basket.');
      const { stored, words } = await takeUp(sql, person, id, house.clock.now());
      const { tillId } = person;
      afterwards(() => {
        house.events.tell({ kind: 'held-changed', forTill: null, taken: { id, tillId, words } });
        house.events.tell({ kind: 'basket-changed', tillId, revision: stored.revision });
      });
      return stored;
    }),
  );

  return router;
}
