import { Router, type Request } from 'express';
import { basketSchema } from '../../contract/counter.ts';
import {
  cancelPromiseSchema,
  layawayTermsSchema,
  promiseQuerySchema,
  promiseStepSchema,
} from '../../contract/promises.ts';
import { object, safe, string } from '../../contract/yup.ts';
import type { Basket } from '../../core/counter/basket.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { askedBy, validate, validateQuery, write } from '../http/write.ts';
import { addToLayaway, makeLayaway } from './layaways.ts';
import {
  dropPromise,
  printPromise,
  promiseNumbered,
  promisePage,
  promiseView,
  takeOut,
  takeStep,
} from './promises.ts';

const uuid = string().uuid().required();

/** Which promise a request is about. @throws Problem 404 */
export function promiseIn(request: Request): string {
  const { id } = request.params;
  if (!uuid.isValidSync(id)) throw new Problem('no-promise', 'There is nothing promised under that number.');
  return id;
}

const goodsSchema = object({
  basket: basketSchema.required(),
  expectedTotal: safe().min(0).required(),
});
const makeSchema = goodsSchema.shape({ terms: layawayTermsSchema.required() });

/** Promises: what waits for customers, beside baskets on hold. */
export function promiseRoutes(house: House): Router {
  const router = Router();
  const changed = () => house.events.tell({ kind: 'promises-changed' });

  router.get('/', async (request, response) => {
    personWith(request, 'sell');
    const query = await validateQuery(promiseQuerySchema, request);
    response.json(await house.database.ask((sql) => promisePage(sql, query, house.clock.now())));
  });

  router.get('/numbered/:number', async (request, response) => {
    personWith(request, 'sell');
    const { number } = request.params;
    response.json(await house.database.ask((sql) => promiseNumbered(sql, number, house.clock.now())));
  });

  // The key becomes the id of the layaway: asking again finds it made.
  router.post('/layaways', async (request, response) => {
    const person = personWith(request, 'sell');
    const { basket, expectedTotal, terms } = await validate(makeSchema, request);
    const asked = askedBy(request, { basket, expectedTotal, terms });
    response.json(
      await makeLayaway(house, person, { basket: basket as Basket, expectedTotal, terms }, asked),
    );
  });

  router.post('/:id/goods', async (request, response) => {
    const person = personWith(request, 'sell');
    const { basket, expectedTotal } = await validate(goodsSchema, request);
    const asked = askedBy(request, { basket, expectedTotal });
    const wanted = { basket: basket as Basket, expectedTotal };
    response.json(await addToLayaway(house, person, promiseIn(request), wanted, asked));
  });

  router.delete(
    '/:id/goods/:position',
    write(house, 'sell', null, async ({ sql, person, request, afterwards }) => {
      afterwards(() => {
        changed();
        house.events.tell({ kind: 'catalogue-changed' });
      });
      const position = idIn(request.params.position);
      return takeOut(sql, person, promiseIn(request), position, house.clock.now());
    }),
  );

  router.get('/:id', async (request, response) => {
    personWith(request, 'sell');
    const id = promiseIn(request);
    response.json(await house.database.ask((sql) => promiseView(sql, id, house.clock.now())));
  });

  router.post(
    '/:id/steps',
    write(house, 'sell', promiseStepSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(() => {
        changed();
        house.outbox.wake();
        house.events.tell({ kind: 'catalogue-changed' });
      });
      return takeStep(sql, person, promiseIn(request), body, house.clock.now());
    }),
  );

  router.post(
    '/:id/cancelled',
    write(house, 'sell', cancelPromiseSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(() => {
        changed();
        house.events.tell({ kind: 'catalogue-changed' });
      });
      return dropPromise(sql, person, promiseIn(request), body.reason, house.clock.now());
    }),
  );

  router.post(
    '/:id/printed',
    write(house, 'sell', null, async ({ sql, person, request, afterwards }) => {
      afterwards(() => house.printing.wake());
      await printPromise(sql, person, promiseIn(request), house.clock.now());
    }),
  );

  return router;
}
