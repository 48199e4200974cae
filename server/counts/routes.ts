import { Router } from 'express';
import {
  bookCountSchema,
  countEntrySchema,
  countItemsSchema,
  newCountSchema,
} from '../../contract/counts.ts';
import { listQuerySchema } from '../../contract/listQuery.ts';
import type { Person } from '../../contract/staff.ts';
import { availableLevels } from '../goods/layerStore.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { personWith } from '../http/session.ts';
import { validateQuery, write } from '../http/write.ts';
import { readTill } from '../shop/store.ts';
import {
  addEntry,
  beginCount,
  bookCount,
  cancelCount,
  countAgain,
  countPage,
  countsPage,
  differences,
  noneThere,
  takeBackEntry,
} from './counts.ts';

const seesCosts = ({ rights }: Pick<Person, 'rights'>) => rights.includes('goods.cost');

/** Goods that are counted while the shop sells. */
export function countsRoutes(house: House): Router {
  const { database, events, clock } = house;
  const router = Router();
  const by = ({ staffId }: Person) => ({ staffId, at: clock.now() });
  const changed = (countId: number) => events.tell({ kind: 'counts-changed', countId });

  router.get('/', async (request, response) => {
    const person = personWith(request, 'stock.count');
    const query = await validateQuery(listQuerySchema, request);
    response.json(
      await database.ask(async (sql) =>
        countsPage(sql, query, (await readTill(sql, person.tillId)).placeId, seesCosts(person)),
      ),
    );
  });
  router.get('/:id', async (request, response) => {
    const person = personWith(request, 'stock.count');
    response.json(await database.ask((sql) => countPage(sql, idIn(request.params.id), seesCosts(person))));
  });
  router.get('/:id/differences', async (request, response) => {
    const person = personWith(request, 'stock.move');
    response.json(await database.ask((sql) => differences(sql, idIn(request.params.id), seesCosts(person))));
  });
  router.post(
    '/',
    write(house, 'stock.move', newCountSchema, ({ sql, body, person, afterwards }) => {
      afterwards(() => changed(0));
      return beginCount(sql, body, by(person));
    }),
  );
  router.post(
    '/:id/entries',
    write(house, 'stock.count', countEntrySchema, ({ sql, body, person, request, afterwards }) => {
      const id = idIn(request.params.id);
      afterwards(() => changed(id));
      return addEntry(sql, id, body, by(person));
    }),
  );
  router.delete(
    '/:id/entries/:entry',
    write(house, 'stock.count', null, ({ sql, request, afterwards }) => {
      const id = idIn(request.params.id);
      afterwards(() => changed(id));
      return takeBackEntry(sql, id, idIn(request.params.entry), clock.now());
    }),
  );
  router.post(
    '/:id/again',
    write(house, 'stock.move', countItemsSchema, ({ sql, body, request, afterwards }) => {
      const id = idIn(request.params.id);
      afterwards(() => changed(id));
      return countAgain(sql, id, body.items, clock.now());
    }),
  );
  router.post(
    '/:id/none',
    write(house, 'stock.move', countItemsSchema, ({ sql, body, person, request, afterwards }) => {
      const id = idIn(request.params.id);
      afterwards(() => changed(id));
      return noneThere(sql, id, body.items, by(person));
    }),
  );
  router.post(
    '/:id/booked',
    write(house, 'stock.move', bookCountSchema, async ({ sql, body, person, request, afterwards }) => {
      const id = idIn(request.params.id);
      const { placeId, items } = await bookCount(sql, id, person, { ...body, at: clock.now() });
      const levels = await availableLevels(sql, placeId, items);
      afterwards(() => {
        changed(id);
        events.tell({ kind: 'stock-changed', placeId, levels });
      });
      return { booked: items.length };
    }),
  );
  router.post(
    '/:id/cancelled',
    write(house, 'stock.move', null, ({ sql, person, request, afterwards }) => {
      const id = idIn(request.params.id);
      afterwards(() => changed(id));
      return cancelCount(sql, id, by(person));
    }),
  );
  return router;
}
