import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Router, type Request } from 'express';
import {
  changeCustomerSchema,
  directorySchema,
  giveCardSchema,
  changeGroupSchema,
  groupSchema,
  mergeSchema,
  newCustomerSchema,
} from '../../contract/people.ts';
import { correctPointsSchema, joinSaleSchema } from '../../contract/points.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { House } from '../house.ts';
import { personWith } from '../http/session.ts';
import { type WriteContext, replace, validateQuery, write } from '../http/write.ts';
import { readShop } from '../shop/store.ts';
import { giveCard, stopCard } from './cards.ts';
import { mailPhoneCode } from './phoneCodes.ts';
import { customerList, emptyList } from './customerList.ts';
import { directoryPage } from './directory.ts';
import { forgetCustomer } from './forgetting.ts';
import * as groups from './groups.ts';
import { groupsInUse } from './directoryStore.ts';
import { knownCsv, knownOf } from './knownOf.ts';
import { correctPoints, joinSale } from './loyalty.ts';
import { mergeRecords } from './merging.ts';
import { noCustomer } from './noCustomer.ts';
import { changeRecord, customerPage } from './records.ts';
import { addCustomer, customerOfCard, findCustomers, readCustomer } from './service.ts';

const CSV = 'text/csv; charset=utf-8';

/** The number that an address names. @throws Problem 404 */
function idIn({ params }: Request): number {
  const id = Number(params.id);
  if (!Number.isInteger(id) || id < 1 || id >= 2 ** 31) throw noCustomer();
  return id;
}

export function peopleRoutes(house: House): Router {
  const router = Router();
  addCustomers(router, house);
  addDirectory(router, house);
  addGroups(router, house);
  return router;
}

function addCustomers(router: Router, house: House): void {
  const { database, clock, events } = house;
  const by = ({ person }: Pick<WriteContext<unknown>, 'person'>) => ({
    staffId: person.staffId,
    at: clock.now(),
  });
  /** Tells every till that something about somebody has changed. */
  const tells = ({ request, afterwards }: Pick<WriteContext<unknown>, 'request' | 'afterwards'>) => {
    const customerId = idIn(request);
    afterwards(() => events.tell({ kind: 'people-changed', customerId }));
    return customerId;
  };

  router.get('/customers', async (request, response) => {
    personWith(request, 'sell');
    const { find } = request.query;
    response.json(
      await database.ask((sql) => findCustomers(sql, typeof find === 'string' ? find.slice(0, 120) : '')),
    );
  });
  router.get('/customers/:id', async (request, response) => {
    personWith(request, 'sell');
    const id = idIn(request);
    response.json(await database.ask((sql) => readCustomer(sql, id, clock.now())));
  });
  router.get('/customers/:id/page', async (request, response) => {
    personWith(request, 'sell');
    const id = idIn(request);
    response.json(await database.ask((sql) => customerPage(sql, id, clock.now())));
  });
  router.get('/cards/:code', async (request, response) => {
    personWith(request, 'sell');
    response.json(await database.ask((sql) => customerOfCard(sql, request.params.code, clock.now())));
  });
  router.post(
    '/customers',
    write(house, 'sell', newCustomerSchema, ({ sql, body, person }) =>
      addCustomer(sql, body, person.staffId, clock.now()),
    ),
  );
  router.put(
    '/customers/:id',
    replace(house, 'people.edit', changeCustomerSchema, (context) =>
      changeRecord(context.sql, tells(context), context.body, by(context)),
    ),
  );
  router.post(
    '/customers/:id/cards',
    write(house, 'people.edit', giveCardSchema, (context) =>
      giveCard(context.sql, tells(context), context.body, by(context)),
    ),
  );
  router.delete(
    '/customers/:id/cards/:code',
    write(house, 'people.edit', null, (context) =>
      stopCard(context.sql, tells(context), String(context.request.params.code), by(context)),
    ),
  );
  router.post(
    '/customers/:id/code/mails',
    write(house, 'sell', null, ({ sql, request, afterwards }) => {
      afterwards(() => house.outbox.wake());
      return mailPhoneCode(sql, idIn(request), clock.now());
    }),
  );
  router.post(
    '/customers/:id/merge',
    write(house, 'people.manage', mergeSchema, (context) => {
      const { body, afterwards, sql } = context;
      afterwards(() => events.tell({ kind: 'people-changed', customerId: body.goes }));
      return mergeRecords(sql, tells(context), body, by(context));
    }),
  );
  router.post(
    '/customers/:id/forget',
    write(house, 'people.manage', null, (context) =>
      forgetCustomer(context.sql, tells(context), clock.now()),
    ),
  );
  router.post(
    '/customers/:id/points/sales',
    write(house, 'sell', joinSaleSchema, (context) =>
      joinSale(context.sql, tells(context), context.body.sale, by(context)),
    ),
  );
  router.post(
    '/customers/:id/points',
    write(house, 'points.correct', correctPointsSchema, (context) =>
      correctPoints(context.sql, tells(context), context.body, by(context)),
    ),
  );
  router.get('/customers/:id/known.:kind', async (request, response) => {
    personWith(request, 'people.manage');
    const id = idIn(request);
    const { known, shop } = await database.ask(async (sql) => ({
      known: await knownOf(sql, id, clock.now()),
      shop: await readShop(sql),
    }));
    const place = { digits: currencyOf(shop.currency).digits, timezone: shop.timezone };
    response.attachment(`customer-${id}.${request.params.kind === 'csv' ? 'csv' : 'json'}`);
    if (request.params.kind === 'csv') response.type(CSV).send(knownCsv(known, place));
    else response.type('application/json').send(JSON.stringify(known, null, 2));
  });
}

function addDirectory(router: Router, { database }: House): void {
  router.get('/directory', async (request, response) => {
    personWith(request, 'sell');
    const query = await validateQuery(directorySchema, request);
    response.json(await database.ask((sql) => directoryPage(sql, query)));
  });
  router.get('/directory.csv', async (request, response) => {
    personWith(request, 'people.manage');
    const query = await validateQuery(directorySchema, request);
    response.attachment('customers.csv').type(CSV);
    await pipeline(Readable.from(customerList(database, query)), response);
  });
  router.get('/template.csv', (request, response) => {
    personWith(request, 'people.manage');
    response.attachment('customers-template.csv').type(CSV).send(emptyList());
  });
}

function addGroups(router: Router, house: House): void {
  const { database, clock, events } = house;
  // What offers and discounts are for is read again by every till.
  const tell = () => {
    events.tell({ kind: 'people-changed', customerId: null });
    events.tell({ kind: 'shop-changed' });
  };
  router.get('/groups', async (request, response) => {
    personWith(request, 'sell');
    response.json(await database.ask(groupsInUse));
  });
  router.post(
    '/groups',
    write(house, 'people.manage', groupSchema, ({ sql, body, afterwards }) => {
      afterwards(tell);
      return groups.addGroup(sql, body, clock.now());
    }),
  );
  router.put(
    '/groups/:id',
    replace(house, 'people.manage', changeGroupSchema, ({ sql, body, request, afterwards }) => {
      afterwards(tell);
      return groups.changeGroup(sql, idIn(request), body, clock.now());
    }),
  );
  router.delete(
    '/groups/:id',
    write(house, 'people.manage', null, ({ sql, request, afterwards }) => {
      afterwards(tell);
      return groups.dropGroup(sql, idIn(request));
    }),
  );
}
