import { Router } from 'express';
import { lookUpSchema } from '../../contract/goods.ts';
import type { Person } from '../../contract/staff.ts';
import {
  changeOrderSchema,
  changeSupplierSchema,
  correctCostSchema,
  deliverySchema,
  supplierReturnSchema,
  invoiceSchema,
  itemSupplierSchema,
  newOrderSchema,
  orderVersionSchema,
  ordersQuerySchema,
  reorderSchema,
  supplierSchema,
} from '../../contract/supply.ts';
import type { Reader } from '../db/database.ts';
import { availableLevels } from '../goods/layerStore.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { personWith } from '../http/session.ts';
import { replace, validateQuery, write } from '../http/write.ts';
import { readTill } from '../shop/store.ts';
import { sendBack, supplierReturnPdf } from './supplierReturns.ts';
import { deliveryPage, noteInvoice, takeIn } from './deliveries.ts';
import { correctCost, putReorder, putSource } from './itemSupply.ts';
import { dropItemSupplier, itemSupply } from './itemSupplyStore.ts';
import { orderPdf } from './orderPaper.ts';
import {
  beginOrder,
  changeOrder,
  closeOrder,
  findOrderable,
  orderPage,
  ordersPage,
  sendOrder,
} from './orders.ts';
import { addSupplier, changeSupplier, supplierPage } from './suppliers.ts';
import { listSuppliers } from './supplierStore.ts';

/** Suppliers, what is ordered from them, and what came. */
export function supplyRoutes(house: House): Router {
  const { database, events, clock, outbox } = house;
  const router = Router();
  const by = ({ staffId }: Person) => ({ staffId, at: clock.now() });
  const changed = () => events.tell({ kind: 'supply-changed' });
  const ask = <T>(work: (sql: Reader) => Promise<T>) => database.ask(work);

  router.get('/suppliers', async (request, response) => {
    personWith(request, 'goods.order');
    const find = typeof request.query.find === 'string' ? request.query.find.slice(0, 120) : '';
    response.json(await ask((sql) => listSuppliers(sql, find.trim())));
  });
  router.get('/suppliers/:id', async (request, response) => {
    personWith(request, 'goods.order');
    response.json(await ask((sql) => supplierPage(sql, idIn(request.params.id))));
  });
  router.post(
    '/suppliers',
    write(house, 'goods.order', supplierSchema, ({ sql, body, afterwards }) => {
      afterwards(changed);
      return addSupplier(sql, body, clock.now());
    }),
  );
  router.put(
    '/suppliers/:id',
    replace(house, 'goods.order', changeSupplierSchema, async ({ sql, body, request, afterwards }) => {
      afterwards(changed);
      const id = idIn(request.params.id);
      await changeSupplier(sql, id, body);
      return supplierPage(sql, id);
    }),
  );

  router.get('/items/:id', async (request, response) => {
    const { rights } = personWith(request, 'goods.edit');
    const id = idIn(request.params.id);
    response.json(await ask((sql) => itemSupply(sql, id, rights.includes('goods.cost'))));
  });
  const itemChange = (person: Person) => person.rights.includes('goods.cost');
  router.post(
    '/items/:id/suppliers',
    write(house, 'goods.order', itemSupplierSchema, async ({ sql, body, person, request, afterwards }) => {
      afterwards(changed);
      const id = idIn(request.params.id);
      await putSource(sql, id, body);
      return itemSupply(sql, id, itemChange(person));
    }),
  );
  router.delete(
    '/items/:id/suppliers/:supplier',
    write(house, 'goods.order', null, async ({ sql, person, request, afterwards }) => {
      afterwards(changed);
      const id = idIn(request.params.id);
      await dropItemSupplier(sql, id, idIn(request.params.supplier));
      return itemSupply(sql, id, itemChange(person));
    }),
  );
  router.put(
    '/items/:id/reorder',
    replace(house, 'goods.order', reorderSchema, async ({ sql, body, person, request, afterwards }) => {
      afterwards(changed);
      const id = idIn(request.params.id);
      await putReorder(sql, id, body);
      return itemSupply(sql, id, itemChange(person));
    }),
  );
  router.post(
    '/layers/:id/cost',
    write(house, 'goods.cost', correctCostSchema, async ({ sql, body, person, request, afterwards }) => {
      afterwards(changed);
      const { itemId } = await correctCost(sql, idIn(request.params.id), body, by(person));
      return itemSupply(sql, itemId, true);
    }),
  );

  router.get('/orders', async (request, response) => {
    const { tillId } = personWith(request, 'goods.receive');
    const query = await validateQuery(ordersQuerySchema, request);
    response.json(
      await ask(async (sql) => ordersPage(sql, query, (await readTill(sql, tillId)).placeId, clock.now())),
    );
  });
  router.get('/orders/:id.pdf', async (request, response) => {
    personWith(request, 'goods.order');
    response.type('pdf').send(await ask((sql) => orderPdf(sql, idIn(request.params.id))));
  });
  router.get('/orders/:id/items', async (request, response) => {
    personWith(request, 'goods.receive');
    const asked = await validateQuery(lookUpSchema, request);
    response.json(await ask((sql) => findOrderable(sql, idIn(request.params.id), asked)));
  });
  router.get('/orders/:id', async (request, response) => {
    personWith(request, 'goods.receive');
    response.json(await ask((sql) => orderPage(sql, idIn(request.params.id))));
  });
  router.post(
    '/orders',
    write(house, 'goods.order', newOrderSchema, ({ sql, body, person, afterwards }) => {
      afterwards(changed);
      return beginOrder(sql, body, by(person));
    }),
  );
  router.put(
    '/orders/:id',
    replace(house, 'goods.order', changeOrderSchema, async ({ sql, body, request, afterwards }) => {
      afterwards(changed);
      const id = idIn(request.params.id);
      await changeOrder(sql, id, body);
      return orderPage(sql, id);
    }),
  );
  router.post(
    '/orders/:id/sent',
    write(house, 'goods.order', orderVersionSchema, async ({ sql, body, request, afterwards }) => {
      afterwards(() => {
        changed();
        outbox.wake();
      });
      const id = idIn(request.params.id);
      await sendOrder(sql, id, body, clock.now());
      return orderPage(sql, id);
    }),
  );
  router.post(
    '/orders/:id/closed',
    write(house, 'goods.order', orderVersionSchema, ({ sql, body, request, afterwards }) => {
      afterwards(changed);
      return closeOrder(sql, idIn(request.params.id), body, clock.now());
    }),
  );

  router.get('/deliveries/:id', async (request, response) => {
    personWith(request, 'goods.receive');
    response.json(await ask((sql) => deliveryPage(sql, idIn(request.params.id))));
  });
  router.post(
    '/orders/:id/deliveries',
    write(house, 'goods.receive', deliverySchema, async ({ sql, body, person, request, afterwards }) => {
      const made = await takeIn(sql, idIn(request.params.id), body, by(person));
      const levels = await availableLevels(sql, made.placeId, made.items);
      afterwards(() => {
        changed();
        events.tell({ kind: 'stock-changed', placeId: made.placeId, levels });
      });
      return { id: made.id, number: made.number };
    }),
  );
  router.get('/returns/:id.pdf', async (request, response) => {
    personWith(request, 'goods.receive');
    response.type('pdf').send(await ask((sql) => supplierReturnPdf(sql, idIn(request.params.id))));
  });
  router.post(
    '/deliveries/:id/returns',
    write(
      house,
      'goods.receive',
      supplierReturnSchema,
      async ({ sql, body, person, request, afterwards }) => {
        const id = idIn(request.params.id);
        const { placeId, items } = await sendBack(sql, id, body, by(person));
        const levels = await availableLevels(sql, placeId, items);
        afterwards(() => {
          changed();
          events.tell({ kind: 'stock-changed', placeId, levels });
        });
        return deliveryPage(sql, id);
      },
    ),
  );
  router.post(
    '/deliveries/:id/invoice',
    write(house, 'goods.cost', invoiceSchema, async ({ sql, body, person, request, afterwards }) => {
      afterwards(changed);
      const id = idIn(request.params.id);
      await noteInvoice(sql, id, body, by(person));
      return deliveryPage(sql, id);
    }),
  );

  return router;
}
