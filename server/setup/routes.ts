import { Router } from 'express';
import { putAfterSale } from '../shop/afterSaleStore.ts';
import { orderRulesSchema, placeDetailsSchema } from '../../contract/orders.ts';
import { accountRulesSchema } from '../../contract/accounts.ts';
import { pointsMoreSchema, programmeSchema } from '../../contract/points.ts';
import { layawayRulesSchema } from '../../contract/promises.ts';
import {
  afterSaleSchema,
  stockLimitsSchema,
  changesSchema,
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
import { writeFiguresAs } from '../../core/locale.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { fieldProblem } from '../http/problem.ts';
import { personOf, personWith } from '../http/session.ts';
import { idempotencyKey, validate, validateQuery } from '../http/write.ts';
import { putAccountRules } from '../people/accountStore.ts';
import { addPointsMore, endPointsMore, putProgramme } from '../people/loyaltyStore.ts';
import { listChanges, noteChange } from '../shop/changeStore.ts';
import { change } from '../shop/changes.ts';
import { tryAllNow } from '../outbox/store.ts';
import { addStaff, changeStaff, setRight } from '../staff/service.ts';
import { endPreset } from '../offers/presetStore.ts';
import { setDiscountLimit, setRefundLimits, setStockLimits } from '../staff/limitStore.ts';
import {
  addDiscountPreset,
  addPlace,
  addTaxCategory,
  addTaxRate,
  addTill,
  dropTaxRate,
  setLayaway,
  setOrders,
  setUpShop,
  setupFacts,
  tillFacts,
  welcome,
} from './service.ts';
import { partnerRoutes } from './partnerRoutes.ts';
import { channelSetupRoutes } from './channelRoutes.ts';
import { putPlaceDetails, renewCalendarKey } from '../promises/orderStore.ts';
import { putShopSettings } from '../shop/store.ts';

export function setupRoutes(house: House): Router {
  const router = Router();

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
    change(house, shopSettingsSchema, async ({ sql, body, afterwards }) => {
      afterwards(() => {
        writeFiguresAs(body.locale);
        house.outbox.wake();
      });
      await putShopSettings(sql, body);
      // Mail may have waited for just this.
      await tryAllNow(sql, house.clock.now());
    }),
  );

  router.post(
    '/staff',
    change(house, newStaffSchema, async ({ sql, body }) => ({
      id: await addStaff(sql, body, house.pinKey),
    })),
  );

  router.put(
    '/staff/:id',
    change(house, changeStaffSchema, async ({ sql, person: by, body: { pin, ...person }, request }) => {
      const at = house.clock.now();
      await changeStaff(sql, { id: idIn(request.params.id), ...person }, pin, {
        pinKey: house.pinKey,
        at,
      });
      if (!pin) return;
      const what = `PIN of ${person.name}`;
      await noteChange(
        sql,
        { section: 'staff', what, was: '', became: 'a new one' },
        { staffId: by.staffId, at },
      );
    }),
  );

  router.put(
    '/rights',
    change(house, rightSchema, ({ sql, body: { role, right, granted } }) =>
      setRight(sql, role, right, granted),
    ),
  );

  router.post(
    '/tax-categories',
    change(house, newTaxCategorySchema, async ({ sql, body }) => {
      return { id: await addTaxCategory(sql, body.name) };
    }),
  );

  router.post(
    '/tax-rates',
    change(house, newTaxRateSchema, async ({ sql, body }) => {
      return { id: await addTaxRate(sql, body, house.clock.now()) };
    }),
  );

  router.delete(
    '/tax-rates/:id',
    change(house, null, ({ sql, request }) => {
      return dropTaxRate(sql, idIn(request.params.id), house.clock.now());
    }),
  );

  router.post(
    '/discount-presets',
    change(house, newPresetSchema, async ({ sql, body }) => {
      return { id: await addDiscountPreset(sql, body) };
    }),
  );

  router.delete(
    '/discount-presets/:id',
    change(house, null, ({ sql, request }) => {
      return endPreset(sql, idIn(request.params.id));
    }),
  );

  router.put(
    '/discount-limits',
    change(house, discountLimitSchema, ({ sql, body }) => {
      return setDiscountLimit(sql, body.role, body.rate);
    }),
  );

  router.put(
    '/after-sale',
    change(house, afterSaleSchema, async ({ sql, body }) => {
      await putAfterSale(sql, body);
      await setRefundLimits(sql, body.refundLimits);
    }),
  );

  router.put(
    '/stock',
    change(house, stockLimitsSchema, ({ sql, body }) => setStockLimits(sql, body.limits)),
  );

  router.put(
    '/layaway',
    change(house, layawayRulesSchema, async ({ sql, body }) => {
      await setLayaway(sql, body);
    }),
  );

  router.put(
    '/points',
    change(house, programmeSchema, async ({ sql, body }) => {
      await putProgramme(sql, body, house.clock.now());
    }),
  );

  router.post(
    '/points/more',
    change(house, pointsMoreSchema, async ({ sql, body }) => ({ id: await addPointsMore(sql, body) })),
  );
  router.delete(
    '/points/more/:id',
    change(house, null, ({ sql, request }) => endPointsMore(sql, idIn(request.params.id), house.clock.now())),
  );

  router.put(
    '/accounts',
    change(house, accountRulesSchema, async ({ sql, body }) => {
      await putAccountRules(sql, body);
    }),
  );

  router.put(
    '/orders',
    change(house, orderRulesSchema, async ({ sql, body }) => {
      await setOrders(sql, body);
    }),
  );

  router.use('/channels', channelSetupRoutes(house));
  router.use('/partners', partnerRoutes(house));

  router.post(
    '/calendar-key',
    change(house, null, async ({ sql }) => {
      await renewCalendarKey(sql);
    }),
  );

  router.put(
    '/places/:id',
    change(house, placeDetailsSchema, async ({ sql, body, request }) => {
      if (!(await putPlaceDetails(sql, idIn(request.params.id), body)))
        throw fieldProblem('street', 'There is no such place.');
    }),
  );

  router.post(
    '/places',
    change(house, newPlaceSchema, async ({ sql, body }) => ({
      id: await addPlace(sql, body.name, body.kind),
    })),
  );

  router.post(
    '/tills',
    change(house, newTillSchema, async ({ sql, body }) => ({
      id: await addTill(sql, body.number, body.placeId),
    })),
  );

  router.get('/changes', async (request, response) => {
    personWith(request, 'shop.set-up');
    const { section, find, before } = await validateQuery(changesSchema, request);
    response.json(await house.database.ask((sql) => listChanges(sql, { section, find, before })));
  });

  return router;
}
