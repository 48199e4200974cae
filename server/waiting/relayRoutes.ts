import { Router } from 'express';
import {
  acceptOrderSchema,
  closeAlertSchema,
  placeRelaySchema,
  relayAgainSchema,
  relayReplySchema,
} from '../../contract/relay.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { personWith } from '../http/session.ts';
import { askedBy, validate, write } from '../http/write.ts';
import { closeAlert, openAlerts } from '../promises/relayStore.ts';
import { acceptPartnerOrder, answerPartner } from './partnerOrders.ts';
import { promiseIn } from './promiseRoutes.ts';
import { partnersAtTill, placeRelay, replyToPartner, sendAgain } from './relays.ts';

/** Orders that are passed on to partners, and what partners say. */
export function relayRoutes(house: House): Router {
  const { database, clock, events } = house;
  const router = Router();
  const changed = () => events.tell({ kind: 'promises-changed' });

  router.get('/partners', async (request, response) => {
    personWith(request, 'sell');
    response.json(await database.ask((sql) => partnersAtTill(sql, clock.now())));
  });

  router.get('/alerts', async (request, response) => {
    personWith(request, 'sell');
    response.json(await database.ask(openAlerts));
  });

  router.post(
    '/alerts/:alert/closed',
    write(
      house,
      'sell',
      closeAlertSchema,
      async ({ sql, person: { staffId }, body, request, afterwards }) => {
        afterwards(() => events.tell({ kind: 'relays-changed' }));
        const id = idIn(request.params.alert);
        await closeAlert(sql, id, { ...body, staffId, at: clock.now() });
      },
    ),
  );

  // The key becomes the id of the relay: asking again finds it taken.
  router.post('/', async (request, response) => {
    const person = personWith(request, 'sell');
    const wanted = await validate(placeRelaySchema, request);
    response.json(await placeRelay(house, person, wanted, askedBy(request, wanted)));
  });

  router.post(
    '/:id/sent',
    write(house, 'sell', relayAgainSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(changed);
      return sendAgain(sql, person, promiseIn(request), body, clock.now());
    }),
  );

  router.post(
    '/:id/replies',
    write(house, 'sell', relayReplySchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(changed);
      return replyToPartner(sql, person, promiseIn(request), body.words, clock.now());
    }),
  );

  router.post(
    '/orders/:id/accepted',
    write(house, 'sell', acceptOrderSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(changed);
      afterwards(() => events.tell({ kind: 'relays-changed' }));
      return acceptPartnerOrder(sql, person, promiseIn(request), body.words, clock.now());
    }),
  );

  router.post(
    '/orders/:id/replies',
    write(house, 'sell', relayReplySchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(changed);
      return answerPartner(sql, person, promiseIn(request), body.words, clock.now());
    }),
  );

  return router;
}
