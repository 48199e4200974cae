import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import express, { Router, type Request } from 'express';
import {
  acceptImportSchema,
  changeCustomerSchema,
  directorySchema,
  giveCardSchema,
  groupSchema,
  importColumnsSchema,
  mergeSchema,
  newCustomerSchema,
} from '../../contract/people.ts';
import { correctPointsSchema, joinSaleSchema } from '../../contract/points.ts';
import { string } from '../../contract/yup.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { validateQuery, write, type WriteContext } from '../http/write.ts';
import { readShop } from '../shop/store.ts';
import { giveCard, stopCard } from './cards.ts';
import { mailPhoneCode } from './phoneCodes.ts';
import { customerList, emptyList } from './customerList.ts';
import { directoryPage } from './directory.ts';
import { forgetCustomer } from './forgetting.ts';
import * as groups from './groups.ts';
import { groupsInUse } from './directoryStore.ts';
import * as imports from './imports.ts';
import { importLines } from './importStore.ts';
import { knownCsv, knownOf } from './knownOf.ts';
import { correctPoints, joinSale } from './loyalty.ts';
import { mergeRecords } from './merging.ts';
import { noCustomer } from './noCustomer.ts';
import { changeRecord, customerPage } from './records.ts';
import { addCustomer, customerOfCard, findCustomers, readCustomer } from './service.ts';

const CSV = 'text/csv; charset=utf-8';
/** About 100,000 customers. */
const MOST_IMPORTED = '24mb';
const uuid = string().uuid().required();

/** The number that an address names. @throws Problem 404 */
function idIn({ params }: Request): number {
  const id = Number(params.id);
  if (!Number.isInteger(id) || id < 1 || id >= 2 ** 31) throw noCustomer();
  return id;
}

function uuidIn({ params }: Request): string {
  if (!uuid.isValidSync(params.id)) throw new Problem('no-import', 'There is no such list.');
  return params.id;
}

export function peopleRoutes(house: House): Router {
  const router = Router();
  addCustomers(router, house);
  addDirectory(router, house);
  addGroups(router, house);
  addImports(router, house);
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
    write(house, 'people.edit', changeCustomerSchema, (context) =>
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
    write(house, 'people.manage', groupSchema, ({ sql, body, request, afterwards }) => {
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

function addImports(router: Router, house: House): void {
  const { database, clock } = house;
  const wake = () => house.imports.wake();
  router.get('/imports', async (request, response) => {
    personWith(request, 'people.manage');
    response.json(await database.ask(imports.lastImport));
  });
  // The id of the list makes a repeat harmless.
  router.put(
    '/imports/:id',
    express.text({ type: 'text/csv', limit: MOST_IMPORTED }),
    async (request, response) => {
      const { staffId } = personWith(request, 'people.manage');
      const id = uuidIn(request);
      const name = String(request.query.name ?? '').slice(0, 120) || 'list.csv';
      const content = typeof request.body === 'string' ? request.body : '';
      const view = await database.write((sql) =>
        imports.beginImport(sql, { id, name, content, staffId, at: clock.now() }),
      );
      wake();
      response.json(view);
    },
  );
  router.get('/imports/:id', async (request, response) => {
    personWith(request, 'people.manage');
    const id = uuidIn(request);
    response.json(await database.ask((sql) => imports.importView(sql, id)));
  });
  router.get('/imports/:id/lines', async (request, response) => {
    personWith(request, 'people.manage');
    const id = uuidIn(request);
    const page = Math.max(0, Math.trunc(Number(request.query.page ?? 0)) || 0);
    const outcome = String(request.query.outcome ?? '');
    response.json(await database.ask((sql) => importLines(sql, id, outcome, page)));
  });
  router.put(
    '/imports/:id/columns',
    write(house, 'people.manage', importColumnsSchema, ({ sql, body, request, afterwards }) => {
      afterwards(wake);
      return imports.chooseColumns(sql, uuidIn(request), body.columns);
    }),
  );
  router.post(
    '/imports/:id/accept',
    write(house, 'people.manage', acceptImportSchema, ({ sql, body, request, afterwards }) => {
      afterwards(wake);
      return imports.acceptImport(sql, uuidIn(request), body.doubles);
    }),
  );
  router.post(
    '/imports/:id/drop',
    write(house, 'people.manage', null, ({ sql, request }) => imports.dropImport(sql, uuidIn(request))),
  );
}
