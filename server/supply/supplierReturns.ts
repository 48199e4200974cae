import { formatDay } from '../../core/locale.ts';
import type { DeliveryPage, WantedSupplierReturn } from '../../contract/supply.ts';
import { decimalsProblem, formatQuantity, ONE } from '../../core/quantity.ts';
import { canGoBack, deliveryNumber, supplierReturnNumber } from '../../core/supply/purchaseOrder.ts';
import { businessDate } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';
import { availableLevels, changeLevels, takeGoods, takeOfLayer } from '../goods/layerStore.ts';
import { putSerials, serialsAt } from '../goods/stockStore.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { openEvent, postCosts } from '../books/store.ts';
import { tablePdf, type PdfTable } from '../pdf.ts';
import { readShop, type ShopRow } from '../shop/store.ts';
import { findDelivery, holdDelivery } from './deliveryStore.ts';
import { noDelivery } from './deliveries.ts';
import { addReturn, deliveryOfReturn } from './supplierReturnStore.ts';

type Line = DeliveryPage['lines'][number];

/**
 * Goods of a delivery go back: they leave at what they cost, and the supplier owes that.
 * @throws Problem 404, 422 next to what is wrong
 */
export async function sendBack(
  sql: Writer,
  deliveryId: number,
  { lines: wanted, words }: WantedSupplierReturn,
  by: { staffId: number; at: Date },
): Promise<{ id: number; number: number; placeId: number; items: number[] }> {
  const held = await holdDelivery(sql, deliveryId);
  const delivery = await findDelivery(sql, deliveryId);
  if (!held || !delivery) throw noDelivery();
  const { placeId } = held;
  if (new Set(wanted.map(({ line }) => line)).size < wanted.length)
    throw fieldProblem('lines', 'A line stands there twice.');
  const going = wanted.map((one, at) => {
    const line = delivery.lines[one.line];
    const problem = lineProblem(line, one);
    if (!line || problem) throw fieldProblem(`lines[${at}].quantity`, problem ?? 'There is no such line.');
    return { ...one, of: line };
  });
  await changeLevels(
    sql,
    placeId,
    going.map(({ of: { itemId }, quantity }) => ({ itemId, change: -quantity })),
  );
  const items = going.map(({ of }) => of.itemId);
  const left = new Map(await availableLevels(sql, placeId, items));
  const event = await openEvent(sql, { kind: 'supplier-return', ...by });
  const moving = { event, ...by, words };
  const facing = {
    reason: 'to-supplier',
    against: 'suppliers',
    subject: `supplier:${held.supplierId}`,
  } as const;
  for (const [at, { of, quantity, serials }] of going.entries()) {
    if ((left.get(of.itemId) ?? 0) < 0)
      throw fieldProblem(`lines[${at}].quantity`, `So many of ${of.name} are not there to be sent.`);
    const goods = { ...facing, itemId: of.itemId, placeId, quantity };
    if (of.serials) {
      await checkUnits(sql, of.itemId, serials, placeId, `lines[${at}].serials`);
      await takeGoods(
        sql,
        serials.map((serial) => ({ ...goods, quantity: ONE, serial })),
        moving,
      );
      await putSerials(sql, of.itemId, serials, null);
    } else await takeOfLayer(sql, of.layerId, goods, moving);
  }
  await postCosts(sql, event);
  const made = await addReturn(
    sql,
    { deliveryId, words, event },
    going.map(({ line, of, quantity, serials }) => ({
      position: line + 1,
      itemId: of.itemId,
      quantity,
      serials,
    })),
    by,
  );
  return { ...made, placeId, items };
}

function lineProblem(line: Line | undefined, wanted: WantedSupplierReturn['lines'][number]): string | null {
  if (!line) return 'There is no such line.';
  const most = canGoBack(line);
  if (wanted.quantity > most)
    return `At most ${formatQuantity(most)} can go back: that is what came whole, and did not go back.`;
  if (line.serials && wanted.serials.length * ONE !== wanted.quantity)
    return 'Each unit has its serial number: say which ones.';
  return decimalsProblem(wanted.quantity, line.decimals);
}

async function checkUnits(
  sql: Writer,
  itemId: number,
  serials: readonly string[],
  placeId: number,
  field: string,
): Promise<void> {
  const known = await serialsAt(sql, itemId, serials);
  for (const serial of serials) {
    const unit = known.find((one) => one.serial === serial);
    if (!unit || unit.sold || unit.promised || unit.placeId !== placeId)
      throw fieldProblem(field, `${serial} is not in stock there.`);
  }
}

/** The sheet that goes along with what goes back. @throws Problem 404 */
export async function supplierReturnPdf(sql: Reader, id: number): Promise<Buffer> {
  const delivery = await findDelivery(sql, (await deliveryOfReturn(sql, id)) ?? 0);
  const made = delivery?.returns.find((one) => one.id === id);
  if (!delivery || !made) throw new Problem('no-delivery', 'Nothing was sent back then.');
  return tablePdf(supplierReturnSheet(delivery, made, await readShop(sql)));
}

/** What stands on that sheet. */
export function supplierReturnSheet(
  delivery: Pick<DeliveryPage, 'number' | 'place' | 'supplier' | 'deliveryNote'>,
  made: DeliveryPage['returns'][number],
  shop: Pick<ShopRow, 'name' | 'timezone' | 'receiptLocale'>,
): PdfTable {
  return {
    title: `Goods back ${supplierReturnNumber(made.number)}`,
    subtitle: [
      `From ${shop.name}, ${delivery.place}`,
      `to ${delivery.supplier}`,
      formatDay(businessDate(new Date(made.at), shop.timezone), shop.receiptLocale),
      `of delivery ${deliveryNumber(delivery.number)}`,
      delivery.deliveryNote ? `your delivery note ${delivery.deliveryNote}` : '',
      made.words,
    ]
      .filter(Boolean)
      .join(' · '),
    headings: [{ text: 'Our number' }, { text: 'Goods' }, { text: 'Quantity', right: true }],
    rows: made.lines.map(({ number, name, quantity, unit, serials }) => [
      number,
      [name, ...serials].join(', '),
      `${formatQuantity(quantity)}${unit === 'each' ? '' : ` ${unit}`}`,
    ]),
    locale: shop.receiptLocale,
  };
}
