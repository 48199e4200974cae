import { Router } from 'express';
import { putAfterSale } from './afterSaleStore.ts';
import {
  afterSaleSchema,
  changeStaffSchema,
  discountLimitSchema,
  firstRunSchema,
  newPlaceSchema,
  newPresetSchema,
  newStaffSchema,
  newTaxCategorySchema,
  newTaxRateSchema,
  newTillSchema,
  rightSchema,
  shopSettingsSchema,
} from '../../contract/setup.ts';
import type { House } from '../house.ts';
import { personOf, personWith } from '../http/session.ts';
import { idempotencyKey, validate, write } from '../http/write.ts';
import { addStaff, changeStaff, setRight } from '../staff/service.ts';
import { endPreset, setDiscountLimit } from '../offers/store.ts';
import {
  addDiscountPreset,
  addPlace,
  addTaxCategory,
  addTaxRate,
  addTill,
  dropTaxRate,
  setUpShop,
  setupFacts,
  tillFacts,
  welcome,
} from './service.ts';
import { putShopSettings } from './store.ts';

export function setupRoutes(house: House): Router {
  const router = Router();
  /** The tills read the shop's facts afresh. */
  const changed = () => house.events.tell({ kind: 'shop-changed' });

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

  router.get('/facts', async (request, response) => {
    personWith(request, 'shop.set-up');
    response.json(await house.database.ask((sql) => setupFacts(sql, house.clock.now())));
  });

  router.put(
    '/settings',
    write(house, 'shop.set-up', shopSettingsSchema, ({ sql, body, afterwards }) => {
      afterwards(changed);
      return putShopSettings(sql, body);
    }),
  );

  router.post(
    '/staff',
    write(house, 'shop.set-up', newStaffSchema, async ({ sql, body }) => ({
      id: await addStaff(sql, body, house.pinKey),
    })),
  );

  router.put(
    '/staff/:id',
    write(house, 'shop.set-up', changeStaffSchema, ({ sql, body: { pin, ...person }, request }) =>
      changeStaff(sql, { id: Number(request.params.id) || 0, ...person }, pin, {
        pinKey: house.pinKey,
        at: house.clock.now(),
      }),
    ),
  );

  router.put(
    '/rights',
    write(house, 'shop.set-up', rightSchema, ({ sql, body: { role, right, granted } }) =>
      setRight(sql, role, right, granted),
    ),
  );

  router.post(
    '/tax-categories',
    write(house, 'shop.set-up', newTaxCategorySchema, async ({ sql, body, afterwards }) => {
      afterwards(changed);
      return { id: await addTaxCategory(sql, body.name) };
    }),
  );

  router.post(
    '/tax-rates',
    write(house, 'shop.set-up', newTaxRateSchema, async ({ sql, body, afterwards }) => {
      afterwards(changed);
      return { id: await addTaxRate(sql, body, house.clock.now()) };
    }),
  );

  router.delete(
    '/tax-rates/:id',
    write(house, 'shop.set-up', null, ({ sql, request, afterwards }) => {
      afterwards(changed);
      return dropTaxRate(sql, Number(request.params.id) || 0, house.clock.now());
    }),
  );

  router.post(
    '/discount-presets',
    write(house, 'shop.set-up', newPresetSchema, async ({ sql, body, afterwards }) => {
      afterwards(changed);
      return { id: await addDiscountPreset(sql, body) };
    }),
  );

  router.delete(
    '/discount-presets/:id',
    write(house, 'shop.set-up', null, ({ sql, request, afterwards }) => {
      afterwards(changed);
      return endPreset(sql, Number(request.params.id) || 0);
    }),
  );

  router.put(
    '/discount-limits',
    write(house, 'shop.set-up', discountLimitSchema, ({ sql, body, afterwards }) => {
      afterwards(changed);
      return setDiscountLimit(sql, body.role, body.rate);
    }),
  );

  router.put(
    '/after-sale',
    write(house, 'shop.set-up', afterSaleSchema, ({ sql, body, afterwards }) => {
      afterwards(changed);
      return putAfterSale(sql, body);
    }),
  );

  router.post(
    '/places',
    write(house, 'shop.set-up', newPlaceSchema, async ({ sql, body }) => ({
      id: await addPlace(sql, body.name, body.kind),
    })),
  );

  router.post(
    '/tills',
    write(house, 'shop.set-up', newTillSchema, async ({ sql, body }) => ({
      id: await addTill(sql, body.number, body.placeId),
    })),
  );

  return router;
}
