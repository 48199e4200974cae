import { DAY_MS } from '../core/day.ts';
import { pointWorth } from '../core/people/loyalty.ts';
import { balanced } from '../core/books/entries.ts';
import type { Role } from '../core/staff/rights.ts';
import type { Database, Writer } from '../server/db/database.ts';
import { addCategory, addItems, addPicture, type NewItem } from '../server/goods/store.ts';
import type { House } from '../server/house.ts';
import { postEvent } from '../server/books/store.ts';
import { addPreset } from '../server/offers/presetStore.ts';
import type { Programme } from '../core/people/loyalty.ts';
import { putProgramme } from '../server/people/loyaltyStore.ts';
import { listGroups, putGroup } from '../server/people/groupStore.ts';
import { fillAll } from '../server/people/groupsFilling.ts';
import { businessDate } from '../server/clock.ts';
import { addPlace, addShop, addTaxCategory, addTill, findShop, readShop } from '../server/shop/store.ts';
import { addGiftCardItem, addMoneyItems, addOpenItem } from '../server/setup/service.ts';
import { addRoleRights, addStaff } from '../server/staff/service.ts';
import { channelKey } from '../server/promises/channelKey.ts';
import { addPartner } from '../server/promises/relayStore.ts';
import { addChannel } from '../server/promises/channelStore.ts';
import { putLayawayRules } from '../server/promises/store.ts';
import { layAccounts, layCharges } from './accounts.ts';
import { layCount } from './counts.ts';
import { layCustomers } from './customers.ts';
import { DEMO_CHANNEL, DEMO_CHANNEL_KEY } from './data/channels.ts';
import { CUSTOMERS } from './data/customers.ts';
import { PARTNERS } from './data/partners.ts';
import { PICTURES } from './data/pictures.ts';
import { demoGoods, type DemoItem } from './goods.ts';
import { pastWeeks, soldQuantities } from './history.ts';
import type { LayawayRules } from '../core/promises/plan.ts';
import { addPromises, layawaysInPast, settlePromises } from './layaways.ts';
import { moveOrders, ordersInPast } from './orders.ts';
import { layHistory } from './layHistory.ts';
import { layOffers } from './offers.ts';
import { layOrderSetup } from './orderSetup.ts';
import { layPayments } from './payments.ts';
import { passOn, relaysInPast } from './relays.ts';
import { layShelves } from './shelves.ts';
import { broughtQuantities, deliveriesInPast, layDeliveries, layOpenOrder, laySuppliers } from './supply.ts';

export { DEMO_CHANNEL_KEY, DEMO_WEB_ORDERS } from './data/channels.ts';

const STAFF: readonly { name: string; role: Role; pin: string }[] = [
  { name: 'Noor A.', role: 'cashier', pin: '1357' },
  { name: 'Teo V.', role: 'cashier', pin: '2468' },
  { name: 'Maren K.', role: 'supervisor', pin: '3690' },
  { name: 'Isolde R.', role: 'manager', pin: '8024' },
];

/** What was in the safe. */
const SAFE = 1_500_00;

/** How many weeks before the day it starts the demo has been selling. */
const WEEKS = 12;

/** Lays the made-up shop down as it is on its first day, without a past. @returns the PINs of its people */
export const fillNewDemo = (database: Database, at: Date) => fillDemo(database, at, 0);

/**
 * Lays the made-up shop down in an empty database, whole or not at all.
 * @param weeks how long it has been selling
 * @returns the PINs of its people
 */
export async function fillDemo(database: Database, at: Date, weeks = WEEKS): Promise<House['demoPins']> {
  const shop = await database.ask(findShop);
  if (shop) return shop.demo ? [...STAFF] : [];
  await database.write(async (sql) => {
    await addShop(sql, {
      name: 'Ostler Lane Music',
      currency: 'USD',
      locale: 'en-US',
      timezone: 'America/New_York',
      taxMode: 'on-top',
      receiptWords: ['7 Ostler Lane, Ferrisport', '555-0117 · hello@ostlerlane.example'],
      receiptThanks: 'Thank you. Play something tonight.',
      openingFloat: 200_00,
      codeLayouts: ['27IIIIIWWWWWC', '28IIIIIPPPPPC'],
      demo: true,
    });
    const places = [
      await addPlace(sql, 'Ostler Lane', 'shop'),
      await addPlace(sql, 'Quayside', 'shop'),
      await addPlace(sql, 'Depot', 'stock'),
    ];
    const [shopPlace = 0, quayside = 0] = places;
    const tills = [
      await addTill(sql, 1, shopPlace),
      await addTill(sql, 2, shopPlace),
      await addTill(sql, 3, quayside),
    ];
    const taxes = {
      general: await addTaxCategory(sql, { name: 'Sales tax', rate: 75_000 }, 'General'),
      'printed music': await addTaxCategory(
        sql,
        { name: 'Printed music tax', rate: 25_000 },
        'Printed music',
      ),
      lessons: await addTaxCategory(sql, { name: 'No tax', rate: 0 }, 'Lessons and gift cards'),
    };
    await addRoleRights(sql);
    const staff = [];
    for (const person of STAFF) {
      staff.push({ staffId: await addStaff(sql, person), name: person.name });
    }

    const began = new Date(at.getTime() - (weeks * 7 + 1) * DAY_MS);
    const goods = demoGoods();
    const weeksPast = pastWeeks(goods, weeks, at, CUSTOMERS.length);
    const deliveries = deliveriesInPast(weeksPast, goods, began);
    const brought = broughtQuantities(deliveries);
    const sold = new Map(
      [...soldQuantities(weeksPast)].map(([key, quantity]) => [key, quantity - (brought.get(key) ?? 0)]),
    );
    await layGoods(sql, goods, { places, taxes, sold, at: began });
    await addOpenItem(sql, taxes.general, began);
    await addGiftCardItem(sql, taxes.lessons, began);
    await addMoneyItems(sql, taxes.lessons, began);
    const manager = staff.at(-1)?.staffId ?? 0;
    const suppliers = await laySuppliers(sql, goods, { at: began, place: shopPlace });
    const supply = { suppliers, place: shopPlace, staffId: manager, until: at };
    await layDeliveries(sql, deliveries, supply);
    await postEvent(sql, { kind: 'opening', at: began, staffId: manager, entries: openingSafe() });
    const customers = await layCustomers(sql, manager, began);
    const accounts = await layAccounts(sql, customers, { staffId: manager, at: began });
    await layOffers(sql, manager, began, at);
    await layPayments(sql, tills, manager, began);
    await putLayawayRules(sql, { ...LAYAWAY_RULES, feeTaxCategoryId: taxes.lessons });
    await layOrderSetup(sql, goods, { places, taxCategoryId: taxes.general });
    for (const partner of PARTNERS) await addPartner(sql, partner);
    await addChannel(sql, DEMO_CHANNEL, channelKey(DEMO_CHANNEL_KEY));
    const shop = { customers, places, staffId: manager };
    const layaways = await layawaysInPast(sql, weeksPast, shop);
    const ordered = await ordersInPast(sql, layaways.shifts, shop);
    const relayed = await relaysInPast(sql, ordered.shifts, shop);
    const past = {
      shifts: relayed.shifts,
      laid: [...layaways.laid, ...ordered.laid, ...relayed.laid],
    };
    await addPromises(sql, past);
    await layHistory(sql, past.shifts, { staff, places, customers, accounts });
    await layOpenOrder(sql, supply);
    if (weeks > 0) await layCount(sql, supply);
    await layCharges(sql, manager, at);
    await passOn(sql, relayed, at);
    await settlePromises(sql, past);
    await moveOrders(sql, ordered, at);
    await layDiscounts(sql);
    await putProgramme(sql, BEATS, began);
    // In the order of the sales: what comes first is in the first lot.
    await sql.query(
      'select earn_points(id, finished_at) from (select id, finished_at from sale where customer_id is not null order by finished_at, id) as sold',
    );
    await sql.query(
      "update shop set drop_above = 120000, managers_mail = 'managers@ostlerlane.example', mail_from = 'hello@ostlerlane.example'",
    );
    await layShelves(sql);
    if (weeks > 0) await fillByRule(sql, at);
  });
  return [...STAFF];
}

/** What the shop gives for what members and others buy. */
const BEATS: Programme = {
  on: true,
  word: 'beats',
  given: 1,
  per: 1_00,
  months: 12,
  backDays: 30,
  joinDays: 14,
  worth: pointWorth(10_00),
  use: 800_000,
  offPoints: 100,
  offAmount: 1_00,
  offMost: 500_000,
};

/** Who buys much belongs to the Band Circle: in a shop with a past it fills itself. */
async function fillByRule(sql: Writer, at: Date): Promise<void> {
  const circle = (await listGroups(sql)).find(({ name }) => name === 'Band Circle');
  if (!circle) throw new Error('there is no Band Circle');
  await putGroup(sql, circle.id, { name: circle.name, rule: CIRCLE_RULE });
  const { timezone } = await readShop(sql);
  await fillAll(sql, businessDate(at, timezone), at);
}

const CIRCLE_RULE = { spent: 1_000_00, months: 12 };

/** How the shop sets goods aside. */
const LAYAWAY_RULES: LayawayRules = {
  leastDeposit: 200_000,
  parts: 3,
  interval: 'month',
  fee: 5_00,
  lower: false,
  stages: ['At the workshop', 'Being engraved'],
  words: 'Goods that are set aside stay ours until they are paid for. Parts can be paid early.',
};

/** What was in the safe before these books began: floats come from there. */
const openingSafe = () =>
  balanced([
    { account: 'safe', subject: '', amount: SAFE },
    { account: 'opening-balance', subject: '', amount: 0 - SAFE },
  ]);

/** The discounts that the shop has ready. */
async function layDiscounts(sql: Writer): Promise<void> {
  const groups = new Map((await listGroups(sql)).map(({ id, name }) => [name, id]));
  const presets: [string, 'percent' | 'amount', number, string | null][] = [
    ['Display piece', 'percent', 150_000, null],
    ['Dented box', 'amount', 5_00, null],
    ['Teacher', 'percent', 100_000, 'Teachers'],
  ];
  for (const [name, kind, value, group] of presets) {
    await addPreset(sql, {
      name,
      kind,
      value,
      needsCustomer: group !== null,
      groupId: group === null ? null : (groups.get(group) ?? null),
    });
  }
}

/** Lays down pictures, categories and items, with stock for what will have been sold. */
async function layGoods(
  sql: Writer,
  goods: readonly DemoItem[],
  shop: {
    places: readonly number[];
    taxes: Record<DemoItem['tax'], number>;
    sold: ReadonlyMap<string, number>;
    at: Date;
  },
): Promise<void> {
  const pictures = new Map<string, number>();
  for (const [name, content] of Object.entries(PICTURES)) {
    pictures.set(name, await addPicture(sql, { name, mediaType: 'image/svg+xml', content }));
  }
  const categories = new Map<string, number>();
  for (const { category } of goods) {
    if (!categories.has(category)) categories.set(category, await addCategory(sql, category));
  }
  const placeOf = (at: number) => shop.places[at] ?? 0;
  const items = goods.map(({ category, tax, stock, serialsAt, ...item }): NewItem => ({
    ...item,
    categoryId: categories.get(category) ?? 0,
    taxCategoryId: shop.taxes[tax],
    pictureId: pictures.get(category) ?? null,
    stock: item.stocked
      ? stock.map((quantity, at) => ({
          placeId: placeOf(at),
          quantity: quantity + (shop.sold.get(`${at} ${item.number}`) ?? 0),
        }))
      : [],
    serialNumbers: serialsAt.flatMap((serials, at) =>
      serials.map((serial) => ({ serial, placeId: placeOf(at) })),
    ),
  }));
  await addItems(sql, items, shop.at);
}
