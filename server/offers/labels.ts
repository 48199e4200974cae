import type { Content, TableCell } from 'pdfmake/interfaces.js';
import type { KeptOffer } from '../../contract/offers.ts';
import { formatCount } from '../../core/locale.ts';
import { formatMoney, type Money } from '../../core/money.ts';
import { kindOf } from '../../core/offers/kinds/kinds.ts';
import { groupsOf } from '../../core/offers/offer.ts';
import { ruleWords } from '../../core/offers/offerWords.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { Reader } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { barcode, makePdf, pageSizeOf } from '../pdf.ts';
import { readShop } from '../shop/store.ts';
import { itemNames, pricedBundles, pricedItems } from './labelStore.ts';
import { offerCodes } from './offerStore.ts';
import { readOffer } from './service.ts';

/** Labels and coupons on a sheet, so many in a row and in all: where there are more, the first sheet says so. */
const IN_A_ROW = 3;
const MOST = 2000;

interface Labelled {
  title: string;
  text: string;
  /** What it cost and what it costs with the offer. */
  price: { before: Money; after: Money } | null;
  /** What is printed as a barcode. */
  code: string | null;
}

/**
 * A sheet to print for an offer: labels with the price before and with it where every unit is for itself, labels of
 * the bundles that it prices, and coupons with its codes.
 * @param most so many labels and coupons at most
 * @throws Problem 404 where nothing can be printed
 */
export async function offerLabels(sql: Reader, id: number, most = MOST): Promise<Buffer> {
  const offer = await readOffer(sql, id);
  const { currency, locale } = await readShop(sql);
  const { digits } = currencyOf(currency);
  const labels = [...(await itemLabels(sql, offer)), ...(await bundleLabels(sql, offer))];
  const gives = await words(sql, offer, digits);
  for (const { code } of await offerCodes(sql, id))
    labels.push({ title: offer.name, text: gives, price: null, code });
  if (labels.length === 0)
    throw new Problem(
      'no-labels',
      'There is nothing to print: this offer has no codes, and no price of its own.',
    );
  const more = labels.length > most && `The first ${formatCount(most)}: there are more.`;
  const cells = labels.slice(0, most).map((label) => cell(label, digits));
  const rows: TableCell[][] = [];
  while (cells.length > 0) {
    const row = cells.splice(0, IN_A_ROW);
    rows.push([...row, ...Array.from({ length: IN_A_ROW - row.length }, () => ({ text: '' }))]);
  }
  return makePdf({
    info: { title: offer.name },
    pageSize: pageSizeOf(locale),
    pageMargins: 24,
    defaultStyle: { font: 'Mono', fontSize: 9 },
    content: [
      ...(more ? [{ text: more, bold: true, margin: [6, 0, 0, 6] as [number, number, number, number] }] : []),
      { table: { widths: Array.from({ length: IN_A_ROW }, () => '*'), body: rows, dontBreakRows: true } },
    ],
  });
}

async function words(sql: Reader, offer: KeptOffer, digits: number): Promise<string> {
  const rows = await itemNames(sql, itemIdsOf(offer));
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  return ruleWords(offer, { item: (id) => names.get(id) ?? '', place: () => '', digits, points: '' });
}

const itemIdsOf = ({ rule }: KeptOffer): number[] =>
  groupsOf(rule).flatMap(({ goods }) => [...goods.itemIds]);

async function itemLabels(sql: Reader, { rule, name }: KeptOffer): Promise<Labelled[]> {
  const kind = kindOf(rule);
  const [meant] = groupsOf(rule);
  if (!meant || !kind.single) return [];
  const rows = await pricedItems(sql, meant.goods, MOST + 1);
  return rows.map((item) => ({
    title: item.name,
    text: name,
    price: { before: item.price, after: item.price - kind.offEach(item.price) },
    code: item.code,
  }));
}

/** Bundles of the catalogue that are made of just what the offer puts together. */
async function bundleLabels(sql: Reader, { rule, name }: KeptOffer): Promise<Labelled[]> {
  const after = kindOf(rule).priceForAll;
  if (after === null) return [];
  const parts = groupsOf(rule)
    .map(({ goods, count }) => `${goods.itemIds.join('/')} ${count * 1000}`)
    .sort();
  const rows = await pricedBundles(sql);
  return rows
    .filter((bundle) => bundle.parts.toSorted().join() === parts.join())
    .map((bundle) => ({
      title: bundle.name,
      text: name,
      price: { before: bundle.before, after },
      code: bundle.code,
    }));
}

function cell({ title, text, price, code }: Labelled, digits: number): TableCell {
  const stack: Content[] = [
    { text: title, bold: true, fontSize: 11 },
    { text, margin: [0, 2, 0, 4] },
  ];
  if (price) {
    stack.push({
      columns: [
        { text: formatMoney(price.before, digits), decoration: 'lineThrough', width: 'auto' },
        { text: formatMoney(price.after, digits), bold: true, fontSize: 20, width: '*' },
      ],
      columnGap: 8,
    });
  }
  if (code)
    stack.push(
      barcode(
        { bcid: 'code128', text: code, includetext: true, height: 9 },
        { width: 130, margin: [0, 6, 0, 0] },
      ),
    );
  return { stack, margin: [6, 6, 6, 6] };
}
