import { Router } from 'express';
import { DateTime } from 'luxon';
import { string } from '../../contract/yup.ts';
import { claimSchema, finishSaleSchema, saveBasketSchema } from '../../contract/counter.ts';
import { shelvesSchema } from '../../contract/shelves.ts';
import { itemsOnShelves, type Shelf } from '../../core/counter/shelves.ts';
import { firstItems } from '../goods/store.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personOf, personWith } from '../http/session.ts';
import { askedBy, idempotencyKey, replace, validate } from '../http/write.ts';
import { readTill } from '../shop/store.ts';
import { dropClaims } from '../offers/offerStore.ts';
import { dropPointsClaim } from '../people/pointsClaimStore.ts';
import { claimForBasket, finishSale, saveBasket } from './service.ts';
import { basketOf, putShelves, readShelves } from './store.ts';

const basketIdSchema = string().uuid().required();

/** Of what was sold lately, so many items come first. */
const LATELY = { weeks: 4 };
const MOST_FIRST = 2000;

export function counterRoutes(house: House): Router {
  const router = Router();

  router.get('/basket', async (request, response) => {
    const { tillId } = personOf(request);
    response.json(await house.database.ask((sql) => basketOf(sql, tillId)));
  });

  // The basket keeps the key that stored it, which makes a repeat harmless: answers to every scan need not be kept.
  router.put('/basket', async (request, response) => {
    const person = personWith(request, 'sell');
    const key = idempotencyKey(request);
    const body = await validate(saveBasketSchema, request);
    const saved = await house.database.write((sql) => saveBasket(sql, person, body, key, house.clock.now()));
    house.events.tell({ kind: 'basket-changed', tillId: person.tillId, revision: saved.revision });
    response.json(saved);
  });

  router.post('/sales', async (request, response) => {
    const person = personWith(request, 'sell');
    const body = await validate(finishSaleSchema, request);
    const asked = askedBy(request, body);
    if (asked.key !== body.basket.id)
      throw new Problem('no-key', "A sale's Idempotency-Key is the id of its basket.");
    response.json(await finishSale(house, person, body, asked));
  });

  // A basket that is about to be paid holds the last uses of offers, and points; asking again holds them anew.
  router.post('/claims', async (request, response) => {
    const person = personWith(request, 'sell');
    idempotencyKey(request);
    const { basket, ...shown } = await validate(claimSchema, request);
    await claimForBasket(house, person, basket, shown);
    response.json({});
  });

  router.delete('/claims/:basketId', async (request, response) => {
    personWith(request, 'sell');
    idempotencyKey(request);
    const basketId = basketIdSchema.validateSync(request.params.basketId);
    const dropped = await house.database.write(async (sql) => {
      await dropPointsClaim(sql, basketId);
      return dropClaims(sql, basketId);
    });
    if (dropped) house.events.tell({ kind: 'shop-changed' });
    response.json({});
  });

  /** What the till can sell while the rest of the catalogue is still on its way. */
  router.get('/first-items', async (request, response) => {
    const { tillId } = personOf(request);
    const items = await house.database.ask(async (sql) => {
      const { placeId } = await readTill(sql, tillId);
      const { shelves } = await readShelves(sql);
      const lately = DateTime.fromJSDate(house.clock.now()).minus(LATELY).toJSDate();
      return firstItems(sql, placeId, itemsOnShelves(shelves), lately, MOST_FIRST);
    });
    response.type('json').send(items);
  });

  router.get('/shelves', async (request, response) => {
    personOf(request);
    response.json(await house.database.ask(readShelves));
  });

  router.put(
    '/shelves',
    replace(house, 'shelves.arrange', shelvesSchema, async ({ sql, body, afterwards }) => {
      const revision = await putShelves(sql, body.shelves as Shelf[], body.revision);
      if (revision === undefined) {
        throw new Problem('shelves-changed', 'Somebody else has arranged the shelves meanwhile.', {
          data: await readShelves(sql),
        });
      }
      afterwards(() => house.events.tell({ kind: 'shelves-changed', revision }));
      return { revision };
    }),
  );

  return router;
}
