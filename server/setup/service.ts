import type { FirstRun, TillFacts, Welcome } from '../../contract/setup.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { addRoleRights, addStaff } from '../staff/service.ts';
import * as store from './store.ts';

/** What a browser sees before anybody has signed in. */
export function welcome({ database, demoPins }: House): Promise<Welcome> {
  return database.ask(async (sql) => {
    const shop = await store.findShop(sql);
    return {
      ready: shop !== undefined,
      shopName: shop?.name ?? '',
      tills: await store.listTills(sql),
      lockMinutes: shop?.lockMinutes ?? 0,
      demoPins: shop?.demo ? demoPins : [],
    };
  });
}

/** Sets up an empty shop with one place, one till, its taxes and its first manager. @throws Problem 409 when there is one */
export async function setUpShop({ database }: House, first: FirstRun): Promise<void> {
  await database.write(async (sql) => {
    if (await store.findShop(sql)) throw new Problem(409, 'shop-exists', 'The shop has been set up already.');
    await store.addShop(sql, {
      name: first.shopName,
      currency: first.currency,
      locale: 'en-US',
      timezone: first.timezone,
      taxMode: first.taxMode,
      receiptWords: [first.placeName],
      receiptThanks: '',
      openingFloat: 0,
      demo: false,
    });
    const placeId = await store.addPlace(sql, first.placeName, 'shop');
    await store.addTill(sql, 1, placeId);
    for (const tax of first.taxes) await store.addTaxCategory(sql, tax);
    await addRoleRights(sql);
    await addStaff(sql, { name: first.managerName, role: 'manager', pin: first.managerPin });
  });
}

/** What the till of a signed-in person works with. */
export function tillFacts({ database }: House, tillId: number): Promise<TillFacts> {
  return database.ask(async (sql) => {
    const {
      name,
      locale,
      timezone,
      taxMode,
      taxRounding,
      openingFloat,
      openPriceLimit,
      lockMinutes,
      currency,
    } = await store.readShop(sql);
    return {
      till: await store.readTill(sql, tillId),
      shop: { name, locale, timezone, taxMode, taxRounding, openingFloat, openPriceLimit, lockMinutes },
      currency: currencyOf(currency),
      taxRates: await store.taxRates(sql),
    };
  });
}
