import { counted } from '../../core/locale.ts';
import type { Paper, PaperRow } from '../../core/journal/paper.ts';
import { headRows, type ReceiptHead } from '../../core/journal/receipt.ts';
import { formatMoneyIn } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { goodsCost } from '../../core/supply/landedCost.ts';
import { orderNumber } from '../../core/supply/purchaseOrder.ts';
import type { Reader } from '../db/database.ts';
import { tablePdf } from '../pdf.ts';
import { readShop, type ShopRow } from '../shop/store.ts';
import { orderPage } from './orders.ts';
import { findSupplier } from './supplierStore.ts';

/** What a supplier is to send, as sheets. @throws Problem 404 */
export async function orderPdf(sql: Reader, id: number): Promise<Buffer> {
  const order = await orderPage(sql, id);
  const shop = await readShop(sql);
  const supplier = await findSupplier(sql, order.supplierId);
  const money = (amount: number) =>
    formatMoneyIn(shop.receiptLocale, amount, currencyOf(shop.currency).digits);
  const known = order.lines.every(({ unitCost }) => unitCost !== null);
  return tablePdf({
    title: `Order ${orderNumber(order.number)}`,
    subtitle: [
      `From ${shop.name}, for ${order.place}`,
      `to ${[order.supplier, supplier?.record.street, supplier?.record.city].filter(Boolean).join(', ')}`,
      supplier?.record.account ? `our number with you ${supplier.record.account}` : '',
      order.expectedOn ? `wanted by ${order.expectedOn}` : '',
      order.words,
    ]
      .filter(Boolean)
      .join(' · '),
    headings: [
      { text: 'Your number' },
      { text: 'Our number' },
      { text: 'Goods' },
      { text: 'Quantity', right: true },
      { text: 'Each', right: true },
      { text: 'Together', right: true },
    ],
    rows: order.lines.map(({ theirNumber, number, name, quantity, unit, unitCost }) => [
      theirNumber,
      number,
      name,
      `${formatQuantity(quantity)}${unit === 'each' ? '' : ` ${unit}`}`,
      unitCost === null ? '' : money(unitCost),
      unitCost === null ? '' : money(goodsCost(quantity, unitCost)),
    ]),
    ...(known && { sums: ['', '', counted(order.lines.length, 'line'), '', '', money(order.total)] }),
    locale: shop.receiptLocale,
  });
}

/** What the mail says that brings an order. @throws Problem 404 */
export async function orderMail(
  sql: Reader,
  id: number,
  head: (shop: ShopRow) => ReceiptHead,
): Promise<Paper> {
  const order = await orderPage(sql, id);
  const shop = await readShop(sql);
  const rows: PaperRow[] = [
    ...headRows(head(shop)),
    { kind: 'title', text: `Order ${orderNumber(order.number)}` },
    { kind: 'text', text: `Please send the goods on the sheet to ${order.place}.` },
    ...(order.expectedOn ? [{ kind: 'pair' as const, left: 'Wanted by', right: order.expectedOn }] : []),
    ...(order.words ? [{ kind: 'text' as const, text: order.words }] : []),
  ];
  return { title: `Order ${orderNumber(order.number)}`, rows };
}
