import type {
  FirstRun,
  NewPreset,
  NewTaxRate,
  SetupFacts,
  TillFacts,
  Welcome,
} from '../../contract/setup.ts';
import type { OrderSettings } from '../../contract/orders.ts';
import type { LayawaySettings } from '../../contract/promises.ts';
import { businessDate } from '../clock.ts';
import { addItems, categoryNamed, itemNumbered, PLAIN_ITEM, type NewItem } from '../goods/store.ts';
import { writeFiguresAs } from '../../core/locale.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { House } from '../house.ts';
import type { Role } from '../../core/staff/rights.ts';
import type { Reader, Writer } from '../db/database.ts';
import { listRights, listStaff } from '../staff/store.ts';
import { liveOffers, offerCounts, openCodes } from '../offers/offerStore.ts';
import { listPartners } from '../promises/relayStore.ts';
import { listChannels } from '../promises/channelStore.ts';
import { orderPlaces, orderSetup, putOrderRules } from '../promises/orderStore.ts';
import { layawaySetup, putLayawayRules, setMoneyItems } from '../promises/store.ts';
import { readAfterSale } from '../shop/afterSaleStore.ts';
import { lastChange } from '../shop/changeStore.ts';
import { addPreset, discountPresets } from '../offers/presetStore.ts';
import { discountLimits, stockLimits } from '../staff/limitStore.ts';
import { accountItem, readAccountRules, setAccountItem } from '../people/accountStore.ts';
import { categoriesOfGoods, pointsMore, readProgramme } from '../people/loyaltyStore.ts';
import { listGroups } from '../people/groupStore.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { addRoleRights, addStaff } from '../staff/service.ts';
import { paymentFacts } from '../tenders/store.ts';
import * as store from '../shop/store.ts';

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

/**
 * Sets up an empty shop with one place, one till, its taxes and its first manager. @throws Problem 409 when there is
 * one
 */
export async function setUpShop({ database, clock, pinKey }: House, first: FirstRun): Promise<void> {
  await database.write(async (sql) => {
    if (await store.findShop(sql)) throw new Problem('shop-exists', 'The shop has been set up already.');
    await store.addShop(sql, {
      name: first.shopName,
      currency: first.currency,
      locale: first.locale,
      timezone: first.timezone,
      taxMode: first.taxMode,
      receiptWords: [first.placeName],
      receiptThanks: '',
      openingFloat: 0,
      codeLayouts: [],
      demo: false,
    });
    const placeId = await store.addPlace(sql, first.placeName, 'shop');
    await store.addTill(sql, 1, placeId);
    const taxes: number[] = [];
    for (const tax of first.taxes) taxes.push(await store.addTaxCategory(sql, tax));
    await addOpenItem(sql, taxes[0] ?? 0, clock.now());
    await addGiftCardItem(sql, taxes[0] ?? 0, clock.now());
    await addMoneyItems(sql, taxes[0] ?? 0, clock.now());
    await addRoleRights(sql);
    await addStaff(sql, { name: first.managerName, role: 'manager', pin: first.managerPin }, pinKey);
  });
  writeFiguresAs(first.locale);
}

/** What the till of a signed-in person works with. */
export function tillFacts({ database, clock }: House, tillId: number): Promise<TillFacts> {
  return database.ask(async (sql) => {
    const {
      name,
      locale,
      timezone,
      dayEnds,
      taxMode,
      taxRounding,
      openingFloat,
      openPriceLimit,
      lockMinutes,
      currency,
      codeLayouts,
      openItemId,
    } = await store.readShop(sql);
    const afterSale = await readAfterSale(sql);
    return {
      now: clock.now().toISOString(),
      till: await store.readTill(sql, tillId),
      shop: {
        name,
        locale,
        timezone,
        dayEnds,
        taxMode,
        taxRounding,
        openingFloat,
        openPriceLimit,
        lockMinutes,
        codeLayouts,
        openItemId,
        dropAbove: afterSale.dropAbove,
        blindCount: afterSale.blindCount,
        openAsLeft: afterSale.openAsLeft,
        countAsTotal: afterSale.countAsTotal,
      },
      currency: currencyOf(currency),
      taxCategories: await store.taxCategories(sql),
      discountPresets: await discountPresets(sql),
      discountLimits: await discountLimits(sql),
      refundLimits: afterSale.refundLimits,
      layaway: (await layawaySetup(sql)).rules,
      points: await readProgramme(sql),
      accounts: { item: await accountItem(sql), rules: await readAccountRules(sql) },
      taxRates: await store.taxRates(sql),
      offers: await liveOffers(sql),
      offerCounts: await offerCounts(sql, clock.now()),
      offerCodes: await openCodes(sql),
      payment: await paymentFacts(sql, tillId),
    };
  });
}

/** Everything that the Setup page shows. */
export async function setupFacts(sql: Reader, at: Date): Promise<SetupFacts> {
  // Before all else: what is changed while the rest is read counts as not seen.
  const seen = await lastChange(sql);
  const {
    name,
    openingFloat,
    openPriceLimit,
    lockMinutes,
    taxRounding,
    receiptWords,
    receiptThanks,
    receiptLogo,
    receiptTerms,
    receiptLocale,
    mailFrom,
    codeLayouts,
    timezone,
    locale,
    dayEnds,
    summaryMail,
  } = await store.readShop(sql);
  const rates = await store.taxRates(sql);
  const granted = await listRights(sql);
  const rightsOf = (role: Role) => granted.filter((one) => one.role === role).map(({ right }) => right);
  return {
    seen,
    shop: {
      name,
      openingFloat,
      openPriceLimit,
      lockMinutes,
      taxRounding,
      receiptWords,
      receiptThanks,
      receiptLogo,
      receiptTerms,
      receiptLocale,
      mailFrom,
      codeLayouts,
      timezone,
      locale,
      dayEnds,
      summaryMail,
    },
    afterSale: await readAfterSale(sql),
    stockLimits: await stockLimits(sql),
    layaway: await layawaySettings(sql),
    points: await readProgramme(sql),
    pointsMore: await pointsMore(sql),
    categories: await categoriesOfGoods(sql),
    accounts: await readAccountRules(sql),
    ...(await orderSettings(sql)),
    channels: await listChannels(sql),
    partners: await listPartners(sql),
    today: businessDate(at, timezone),
    progress: await store.setupProgress(sql),
    discountPresets: await discountPresets(sql),
    discountLimits: await discountLimits(sql),
    groups: await listGroups(sql),
    taxCategories: (await store.taxCategories(sql)).map(({ id, name: category }) => ({
      id,
      name: category,
      rates: rates
        .filter((rate) => rate.category === id)
        .toSorted((a, b) => (a.name + a.from < b.name + b.from ? -1 : 1)),
    })),
    staff: await listStaff(sql),
    rights: {
      cashier: rightsOf('cashier'),
      supervisor: rightsOf('supervisor'),
      manager: rightsOf('manager'),
    },
    places: await orderPlaces(sql),
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

/** Unlisted things sell as this item: its price and what it is are asked for. */
export async function addOpenItem(sql: Writer, taxCategoryId: number, at: Date): Promise<void> {
  const item: NewItem = {
    ...PLAIN_ITEM,
    number: 'OPEN',
    name: 'Unlisted item',
    price: null,
    stocked: false,
    asksNote: 'What is it?',
    categoryId: await categoryNamed(sql, 'Unlisted'),
    taxCategoryId,
  };
  await addItems(sql, [item], at);
  await store.setOpenItem(sql, await itemNumbered(sql, item.number));
}

/** Gift cards sell as this item, at the amount that is put on them and without tax. */
export async function addGiftCardItem(sql: Writer, taxCategoryId: number, at: Date): Promise<void> {
  const item: NewItem = {
    ...PLAIN_ITEM,
    number: 'GIFT',
    name: 'Gift card',
    price: null,
    stocked: false,
    categoryId: await categoryNamed(sql, 'Gift cards'),
    taxCategoryId,
  };
  await addItems(sql, [item], at);
  await store.setGiftCardItem(sql, await itemNumbered(sql, item.number));
}

/** Deposits and fees of promises, and money for house accounts, are rung up as these items; none is sold by itself. */
export async function addMoneyItems(sql: Writer, taxCategoryId: number, at: Date): Promise<void> {
  const categoryId = await categoryNamed(sql, 'Deposits');
  const money = { ...PLAIN_ITEM, price: null, stocked: false, categoryId, taxCategoryId };
  await addItems(
    sql,
    [
      { ...money, number: 'DEPOSIT', name: 'Deposit' },
      { ...money, number: 'FEE', name: 'Fee' },
      { ...money, number: 'SHIPPING', name: 'Shipping' },
      { ...money, number: 'ON-ACCOUNT', name: 'Payment on account' },
    ],
    at,
  );
  await setMoneyItems(sql, {
    depositId: await itemNumbered(sql, 'DEPOSIT'),
    feeId: await itemNumbered(sql, 'FEE'),
    shippingId: await itemNumbered(sql, 'SHIPPING'),
  });
  await setAccountItem(sql, await itemNumbered(sql, 'ON-ACCOUNT'));
}

/** How goods are set aside and paid off from now on. @throws Problem 422 */
export async function setLayaway(sql: Writer, wanted: LayawaySettings): Promise<void> {
  if (!(await store.taxCategories(sql)).some(({ id }) => id === wanted.feeTaxCategoryId)) {
    throw fieldProblem('feeTaxCategoryId', 'Choose a tax category.');
  }
  await putLayawayRules(sql, wanted);
}

/** How orders are taken from now on. @throws Problem 422 */
export async function setOrders(sql: Writer, wanted: OrderSettings): Promise<void> {
  if (!(await store.taxCategories(sql)).some(({ id }) => id === wanted.shippingTaxCategoryId)) {
    throw fieldProblem('shippingTaxCategoryId', 'Choose a tax category.');
  }
  await putOrderRules(sql, wanted);
}

async function orderSettings(sql: Reader): Promise<Pick<SetupFacts, 'orders' | 'calendarKey'>> {
  const { rules, shippingItem, calendarKey } = await orderSetup(sql);
  return {
    orders: { ...(rules as OrderSettings), shippingTaxCategoryId: shippingItem.taxCategoryId },
    calendarKey,
  };
}

async function layawaySettings(sql: Reader): Promise<LayawaySettings> {
  const { rules, feeItem } = await layawaySetup(sql);
  return { ...rules, feeTaxCategoryId: feeItem.taxCategoryId };
}

/** Adds a tax category with a name of its own. @throws Problem 422 */
export async function addTaxCategory(sql: Writer, name: string): Promise<number> {
  const known = await store.taxCategories(sql);
  if (known.some((one) => one.name.toLowerCase() === name.toLowerCase())) {
    throw fieldProblem('name', `There is a tax category ${name} already.`);
  }
  return store.addTaxCategory(sql, { name, rate: 0 });
}

/** A discount that the shop has ready. @throws Problem 422 when there is one of that name */
export async function addDiscountPreset(sql: Writer, preset: NewPreset): Promise<number> {
  const known = await discountPresets(sql);
  if (known.some(({ name }) => name.toLowerCase() === preset.name.toLowerCase())) {
    throw fieldProblem('name', `There is a discount ${preset.name} already.`);
  }
  if (preset.groupId !== null && !(await listGroups(sql)).some(({ id }) => id === preset.groupId)) {
    throw fieldProblem('groupId', 'Choose a group.');
  }
  return addPreset(sql, { ...preset, needsCustomer: preset.needsCustomer || preset.groupId !== null });
}

/** A rate from midnight of a day on. @throws Problem 422 where that day has begun, or has such a rate already */
export async function addTaxRate(sql: Writer, rate: NewTaxRate, at: Date): Promise<number> {
  const { timezone } = await store.readShop(sql);
  const today = businessDate(at, timezone);
  const ofCategory = (await store.taxRates(sql)).filter(({ category }) => category === rate.taxCategoryId);
  const sameName = ofCategory.filter(({ name }) => name === rate.name);
  if (!(await store.taxCategories(sql)).some(({ id }) => id === rate.taxCategoryId)) {
    throw fieldProblem('taxCategoryId', 'Choose a tax category.');
  }
  if (rate.from < today || (rate.from === today && sameName.length > 0)) {
    throw fieldProblem('from', 'That day has begun, and sales were taxed: choose a day from tomorrow on.');
  }
  if (sameName.some(({ from }) => from === rate.from)) {
    throw fieldProblem('from', `${rate.name} has a rate from that day on already. Take it back first.`);
  }
  return store.addTaxRate(sql, rate);
}

/** Takes a rate back that has not begun. @throws Problem 409 */
export async function dropTaxRate(sql: Writer, id: number, at: Date): Promise<void> {
  const { timezone } = await store.readShop(sql);
  if (await store.dropTaxRate(sql, id, businessDate(at, timezone))) return;
  throw new Problem('rate-began', 'This rate is in force: end it with a later one.');
}
