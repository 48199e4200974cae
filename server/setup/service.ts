import type { FirstRun, SetupFacts, TillFacts, Welcome } from '../../contract/setup.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { House } from '../house.ts';
import type { Role } from '../../core/staff/rights.ts';
import type { Reader, Writer } from '../db/database.ts';
import { listRights, listStaff } from '../staff/store.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
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

/** Everything that the Setup page shows. */
export async function setupFacts(sql: Reader): Promise<SetupFacts> {
  const { name, openingFloat, openPriceLimit, lockMinutes, receiptWords, receiptThanks } =
    await store.readShop(sql);
  const granted = await listRights(sql);
  const rightsOf = (role: Role) => granted.filter((one) => one.role === role).map(({ right }) => right);
  return {
    shop: { name, openingFloat, openPriceLimit, lockMinutes, receiptWords, receiptThanks },
    staff: await listStaff(sql),
    rights: {
      cashier: rightsOf('cashier'),
      supervisor: rightsOf('supervisor'),
      manager: rightsOf('manager'),
    },
    places: await store.listPlaces(sql),
    tills: await store.listTills(sql),
  };
}

/** Adds a till with a number of its own. @throws Problem 422 next to what is wrong */
export async function addTill(sql: Writer, number: number, placeId: number): Promise<number> {
  const tills = await store.listTills(sql);
  if (tills.some((till) => till.number === number))
    throw fieldProblem('number', `There is a till ${number} already.`);
  const place = (await store.listPlaces(sql)).find(({ id }) => id === placeId);
  if (place?.kind !== 'shop') throw fieldProblem('placeId', 'Choose a place that sells.');
  return store.addTill(sql, number, placeId);
}

/** Adds a place with a name of its own. @throws Problem 422 */
export async function addPlace(sql: Writer, name: string, kind: 'shop' | 'stock'): Promise<number> {
  const places = await store.listPlaces(sql);
  if (places.some((place) => place.name.toLowerCase() === name.toLowerCase())) {
    throw fieldProblem('name', `There is a place ${name} already.`);
  }
  return store.addPlace(sql, name, kind);
}
