import { DAY_MS } from '../core/day.ts';
import { ONE } from '../core/quantity.ts';
import { supplierSchema } from '../contract/supply.ts';
import type { Writer } from '../server/db/database.ts';
import { deliveryPage, noteInvoice, takeIn } from '../server/supply/deliveries.ts';
import { beginOrder, changeOrder, orderPage, sendOrder } from '../server/supply/orders.ts';
import { addSupplier } from '../server/supply/suppliers.ts';
import { itemIds } from '../server/goods/store.ts';
import { SUPPLIERS } from './data/suppliers.ts';
import type { DemoItem } from './goods.ts';
import type { PastShift } from './history.ts';

/** A delivery brings what is sold in so many days after it. */
const PERIOD = 14;
/** What was there when the shop began lasted so long. */
const FIRST = 21;
/** Prices rise a little with each delivery, in thousandths. */
const DEARER = 8;

/** What came, when, and from whom; quantities in thousandths. */
export interface PastDelivery {
  supplier: number;
  at: Date;
  lines: { number: string; quantity: number }[];
}

/** What the shop on Ostler Lane got from its suppliers: before each fortnight what it then sold. */
export function deliveriesInPast(
  shifts: readonly PastShift[],
  goods: readonly DemoItem[],
  began: Date,
): PastDelivery[] {
  const supplierOf = new Map<string, number>();
  for (const { number, category, stocked, kind } of goods) {
    const supplier = SUPPLIERS.findIndex(({ categories }) => categories.includes(category));
    if (stocked && kind === 'goods' && supplier >= 0) supplierOf.set(number, supplier);
  }
  const first = began.getTime() + FIRST * DAY_MS;
  const found = new Map<string, Map<string, number>>();
  for (const { place, sales } of shifts) {
    if (place !== 0) continue;
    for (const { at, lines } of sales) {
      const period = Math.floor((at.getTime() - first) / (PERIOD * DAY_MS));
      if (period < 0) continue;
      for (const { number, quantity } of lines) {
        const supplier = supplierOf.get(number);
        if (supplier === undefined) continue;
        const key = `${period} ${supplier}`;
        const wanted = found.get(key) ?? new Map<string, number>();
        wanted.set(number, (wanted.get(number) ?? 0) + quantity);
        found.set(key, wanted);
      }
    }
  }
  return [...found]
    .map(([key, wanted]) => {
      const [period = 0, supplier = 0] = key.split(' ').map(Number);
      // In the morning; one after the other.
      const at = new Date(first + period * PERIOD * DAY_MS - DAY_MS / 12 + supplier * 60_000);
      return { supplier, at, lines: [...wanted].map(([number, quantity]) => ({ number, quantity })) };
    })
    .toSorted((a, b) => a.at.getTime() - b.at.getTime());
}

/** What deliveries brought of each item, as what was sold of it is listed. */
export function broughtQuantities(deliveries: readonly PastDelivery[]): Map<string, number> {
  const brought = new Map<string, number>();
  for (const { number, quantity } of deliveries.flatMap(({ lines }) => lines))
    brought.set(`0 ${number}`, (brought.get(`0 ${number}`) ?? 0) + quantity);
  return brought;
}

/** Lays down suppliers, how goods come from them, and when they are ordered again. @returns the suppliers' ids */
export async function laySuppliers(
  sql: Writer,
  goods: readonly DemoItem[],
  { at, place }: { at: Date; place: number },
): Promise<number[]> {
  const ids: number[] = [];
  for (const { categories, pack, freight: _, ...facts } of SUPPLIERS) {
    const { id } = await addSupplier(sql, await supplierSchema.validate(facts), at);
    ids.push(id);
    const items = goods.filter(
      (item) => item.kind === 'goods' && item.stocked && categories.includes(item.category),
    );
    await sql.query(
      `insert into item_supplier (item_id, supplier_id, rank, number, cost, pack)
       select item.id, $1, 1, 'S' || item.id * 7 + 1000, item.cost, $3
       from item where number = any ($2::text[]) order by item.id`,
      [id, items.map(({ number }) => number), pack * ONE],
    );
    await sql.query(
      `insert into reorder_point (item_id, place_id, point, target)
       select item.id, $2, 3000, 3000 + $3 * 2 from item where number = any ($1::text[]) order by item.id`,
      [
        items.filter(({ serials, decimals }) => !serials && decimals === 0).map(({ number }) => number),
        place,
        pack * ONE,
      ],
    );
  }
  return ids;
}

/** Orders what came in the past, takes it in and notes its invoice, but for the last ones. */
export async function layDeliveries(
  sql: Writer,
  deliveries: readonly PastDelivery[],
  shop: { suppliers: readonly number[]; place: number; staffId: number; until: Date },
): Promise<void> {
  const numbers = [...new Set(deliveries.flatMap(({ lines }) => lines.map(({ number }) => number)))];
  const ids = await itemIds(sql, numbers);
  const costs = await sql.query<{ id: number; cost: number | null }>(
    'select id, cost from item where id = any ($1::integer[])',
    [[...ids.values()]],
  );
  const costOf = new Map(costs.map(({ id, cost }) => [id, cost ?? 0]));
  const { place: placeId, staffId } = shop;
  for (const [nth, { supplier, at, lines }] of deliveries.entries()) {
    const supplierId = shop.suppliers[supplier] ?? 0;
    const facts = SUPPLIERS[supplier];
    const ordered = new Date(at.getTime() - (facts?.leadDays ?? 5) * DAY_MS);
    const { id } = await beginOrder(
      sql,
      { supplierId, placeId, suggested: false, cover: 0 },
      { staffId, at: ordered },
    );
    const dearer = 1000 + DEARER * Math.floor(nth / SUPPLIERS.length);
    const wanted = lines.map(({ number, quantity }) => {
      const itemId = ids.get(number) ?? 0;
      return {
        itemId,
        quantity,
        unitCost: Math.round(((costOf.get(itemId) ?? 0) * dearer) / 1000),
        reason: '',
      };
    });
    await changeOrder(sql, id, { version: 2, expectedOn: '', words: '', lines: wanted });
    await sendOrder(sql, id, { version: 3, mail: false }, ordered);
    const { version } = await orderPage(sql, id);
    const made = await takeIn(
      sql,
      id,
      {
        version,
        deliveryNote: `L ${4100 + nth * 13}`,
        freight: facts?.freight ?? 0,
        spreadBy: 'value',
        lines: wanted.map((line) => ({ ...line, damaged: 0, serials: [] })),
      },
      { staffId, at },
    );
    const invoiced = new Date(at.getTime() + 6 * DAY_MS);
    if (invoiced > shop.until) continue;
    const page = await deliveryPage(sql, made.id);
    await noteInvoice(
      sql,
      made.id,
      {
        version: page.version,
        number: `R-${20_100 + nth * 7}`,
        freight: page.freight,
        lines: page.lines.map(({ goodsCost }) => goodsCost),
      },
      { staffId, at: invoiced },
    );
  }
}

/** What is on order on the last day: suggested, and sent two days ago. */
export async function layOpenOrder(
  sql: Writer,
  shop: { suppliers: readonly number[]; place: number; staffId: number; until: Date },
): Promise<void> {
  const by = { staffId: shop.staffId, at: new Date(shop.until.getTime() - 2 * DAY_MS) };
  const [supplierId = 0] = shop.suppliers;
  const { id } = await beginOrder(sql, { supplierId, placeId: shop.place, suggested: true, cover: 14 }, by);
  const page = await orderPage(sql, id);
  if (page.lines.length > 0) await sendOrder(sql, id, { version: page.version, mail: false }, by.at);
}
