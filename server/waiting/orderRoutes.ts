import { Router } from 'express';
import { basketSchema } from '../../contract/counter.ts';
import {
  excusedSchema,
  handoverChangeSchema,
  orderFactsQuerySchema,
  orderStepSchema,
  orderTermsSchema,
} from '../../contract/orders.ts';
import { object, safe, string } from '../../contract/yup.ts';
import type { Basket } from '../../core/counter/basket.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { askedBy, replace, validate, validateQuery, write } from '../http/write.ts';
import { labelOf } from '../promises/orderPapers.ts';
import { excusePayment } from './excusing.ts';
import { changeHandover, orderFacts, placeOrder } from './orders.ts';
import { askForLabel, takeOrderStep } from './picking.ts';
import { promiseIn } from './promiseRoutes.ts';
import { printPromise } from './promises.ts';
import { labelPdf } from './label.ts';

const placeSchema = object({
  basket: basketSchema.required(),
  expectedTotal: safe().min(0).required(),
  terms: orderTermsSchema.required(),
});
const paperSchema = object({
  paper: string()
    .oneOf(['pick-list', 'packing-slip'] as const)
    .required(),
});

/** Orders: goods that are collected or shipped later. */
export function orderRoutes(house: House): Router {
  const { database, events, clock } = house;
  const router = Router();
  /** The list of what waits, and what can be sold where. */
  const changed = () => {
    events.tell({ kind: 'promises-changed' });
    events.tell({ kind: 'catalogue-changed' });
    house.outbox.wake();
  };

  router.get('/facts', async (request, response) => {
    personWith(request, 'sell');
    const { items } = await validateQuery(orderFactsQuerySchema, request);
    response.json(await database.ask((sql) => orderFacts(sql, items.split(',').filter(Boolean).map(Number))));
  });

  // The key becomes the id of the order: asking again finds it placed.
  router.post('/', async (request, response) => {
    const person = personWith(request, 'sell');
    const { basket, expectedTotal, terms } = await validate(placeSchema, request);
    const asked = askedBy(request, { basket, expectedTotal, terms });
    response.json(await placeOrder(house, person, { basket: basket as Basket, expectedTotal, terms }, asked));
  });

  router.post(
    '/:id/steps',
    write(house, 'sell', orderStepSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(changed);
      return takeOrderStep(sql, person, promiseIn(request), body, clock.now());
    }),
  );

  router.post(
    '/:id/excused',
    write(house, 'sell', excusedSchema, async ({ sql, person, body, request, afterwards }) => {
      // No goods move by it.
      afterwards(() => events.tell({ kind: 'promises-changed' }));
      return excusePayment(sql, person, promiseIn(request), body, clock.now());
    }),
  );

  router.put(
    '/:id/handover',
    replace(house, 'sell', handoverChangeSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(changed);
      return changeHandover(sql, person, promiseIn(request), body, clock.now());
    }),
  );

  router.post(
    '/:id/printed',
    write(house, 'sell', paperSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(() => house.printing.wake());
      await printPromise(sql, person, promiseIn(request), clock.now(), body.paper);
    }),
  );

  router.post(
    '/:id/parcels',
    write(house, 'sell', null, async ({ sql, person, request, afterwards }) => {
      afterwards(() => {
        changed();
        house.parcels.wake();
      });
      return askForLabel(sql, person, promiseIn(request), clock.now());
    }),
  );

  router.get('/:id/parcels/:parcel/label.pdf', async (request, response) => {
    personWith(request, 'sell');
    const id = promiseIn(request);
    const facts = await database.ask((sql) => labelOf(sql, id, request.params.parcel));
    if (!facts) throw new Problem('no-promise', 'There is no such label.');
    response.type('application/pdf').send(await labelPdf(facts));
  });

  return router;
}
