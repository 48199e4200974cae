import type { Role } from '../core/staff/rights.ts';
import type { Database } from '../server/db/database.ts';
import { addCategory, addItems } from '../server/goods/store.ts';
import type { House } from '../server/house.ts';
import { addPlace, addShop, addTaxCategory, addTill, findShop } from '../server/setup/store.ts';
import { addRoleRights, addStaff } from '../server/staff/service.ts';
import { demoGoods } from './goods.ts';
import { layShelves } from './shelves.ts';

const STAFF: readonly { name: string; role: Role; pin: string }[] = [
  { name: 'Noor A.', role: 'cashier', pin: '1357' },
  { name: 'Teo V.', role: 'cashier', pin: '2468' },
  { name: 'Maren K.', role: 'supervisor', pin: '3690' },
  { name: 'Isolde R.', role: 'manager', pin: '8024' },
];

/** Lays the made-up shop down in an empty database, whole or not at all. @returns the PINs of its people */
export async function fillDemo(database: Database, at: Date): Promise<House['demoPins']> {
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
      demo: true,
    });
    const places = [
      await addPlace(sql, 'Ostler Lane', 'shop'),
      await addPlace(sql, 'Quayside', 'shop'),
      await addPlace(sql, 'Depot', 'stock'),
    ];
    const [shopPlace = 0, quayside = 0] = places;
    await addTill(sql, 1, shopPlace);
    await addTill(sql, 2, shopPlace);
    await addTill(sql, 3, quayside);
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
    for (const person of STAFF) await addStaff(sql, person);

    const goods = demoGoods();
    const categories = new Map<string, number>();
    for (const { category } of goods) {
      if (!categories.has(category)) categories.set(category, await addCategory(sql, category));
    }
    const items = goods.map(({ category, tax, stock, ...item }) => ({
      ...item,
      categoryId: categories.get(category) ?? 0,
      taxCategoryId: taxes[tax],
      stock: stock.map((quantity, place) => ({ placeId: places[place] ?? 0, quantity })),
    }));
    await addItems(sql, items, at);
    await layShelves(sql);
  });
  return [...STAFF];
}
