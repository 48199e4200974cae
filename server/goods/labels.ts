import { formatDay } from '../../core/locale.ts';
import bwipjs from 'bwip-js/node';
import type { Content } from 'pdfmake/interfaces.js';
import type { LabelsPage, WantedLabels } from '../../contract/goods.ts';
import {
  LABEL_PAGES,
  labelBarcode,
  labelPlaces,
  layoutProblems,
  type LabelLayout,
} from '../../core/goods/labelSheet.ts';
import { formatMoneyIn } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { labelPrices } from '../../core/offers/labelPrice.ts';
import type { Reader, Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { barcode, makePdf } from '../pdf.ts';
import { liveOffers } from '../offers/offerStore.ts';
import { readShop, shopToday } from '../shop/store.ts';
import * as store from './labelStore.ts';

/** So many labels are printed at once. */
const MOST_LABELS = 2_000;

/** What the page of labels shows. */
export async function labelsPage(sql: Reader, at: Date): Promise<LabelsPage> {
  const prints = await store.lastPrints(sql);
  return {
    ...(await store.labelFacts(sql, await shopToday(sql, at))),
    prints: prints.map((print) => ({ ...print, at: new Date(print.at).toISOString() })),
  };
}

/** Notes what is printed; its sheet is made from that, now and again later. @throws Problem 422 */
export async function printLabels(
  sql: Writer,
  { which, items, layout, first, offers }: WantedLabels,
  { placeId, ...by }: { staffId: number; at: Date; placeId: number },
): Promise<{ id: number; labels: number }> {
  const [wrong] = Object.entries(layoutProblems(layout));
  if (wrong) throw fieldProblem(`layout.${wrong[0]}`, wrong[1]);
  if (layout.kind === 'sheet' && first > layout.columns * layout.rows)
    throw fieldProblem('first', 'The sheet has not so many places.');
  const day = await shopToday(sql, by.at);
  const wanted: store.WantedLabel[] =
    which === 'picked'
      ? items
      : (await store.dueItems(sql, which, { day, most: MOST_LABELS })).map((id) => ({ id, copies: 1 }));
  if (wanted.reduce((all, { copies }) => all + copies, 0) > MOST_LABELS)
    throw fieldProblem('which', `At most ${MOST_LABELS} labels at once.`);
  const shown = offers ? await withOffers(sql, wanted, { day, placeId }) : wanted;
  const printed = await store.addPrint(sql, { layout, first, items: shown }, by);
  // Nothing of it is kept then.
  if (printed.labels === 0) throw fieldProblem('which', 'There is no label to print.');
  return printed;
}

/** Labels with what offers make of their prices for everybody, on a day at a place. */
async function withOffers(
  sql: Reader,
  wanted: readonly store.WantedLabel[],
  where: { day: string; placeId: number },
): Promise<store.WantedLabel[]> {
  const priceOf = labelPrices(await liveOffers(sql), where);
  const ids = wanted.map(({ id }) => id);
  const offered = new Map(
    (await store.pricedGoods(sql, ids)).map(({ price, ...goods }) => [goods.itemId, priceOf(goods, price)]),
  );
  return wanted.map((one) => ({ ...one, offer: offered.get(one.id) ?? null }));
}

/** Tenths of a millimetre in points of a PDF. */
const points = (tenths: number): number => (tenths / 254) * 72;
const PAD = 20;

/** The sheet, or the roll, of what was printed. @throws Problem 404 */
export async function labelsPdf(sql: Reader, id: number): Promise<Buffer> {
  const print = await store.findPrint(sql, id);
  if (!print) throw new Problem('no-labels', 'Nothing was printed under this number.');
  const { layout, first, lines } = print;
  const { currency, receiptLocale } = await readShop(sql);
  const { digits } = currencyOf(currency);
  const all = lines.flatMap((line) => Array.from({ length: line.copies }, () => line));
  const places = labelPlaces(layout, all.length, first);
  const content = all.flatMap((line, nth): Content[] => {
    const place = places[nth];
    if (!place) return [];
    const money = (price: number | null) =>
      price === null
        ? ''
        : `${formatMoneyIn(receiptLocale, price, digits)}${line.unit === 'each' ? '' : `/${line.unit}`}`;
    const prices =
      line.offerPrice === null
        ? { now: money(line.price), before: '', until: '' }
        : {
            now: money(line.offerPrice),
            before: money(line.price),
            until: line.offerUntil === null ? '' : `until ${formatDay(line.offerUntil, receiptLocale)}`,
          };
    const label = labelOf(line, prices, layout, place);
    const newPage = nth > 0 && places[nth - 1]?.page !== place.page;
    return newPage ? [{ text: '', pageBreak: 'before' }, ...label] : label;
  });
  const size: [number, number] =
    layout.kind === 'roll' ? [layout.width, layout.height] : [...LABEL_PAGES[layout.page]];
  return makePdf({
    info: { title: 'Labels' },
    pageSize: { width: points(size[0]), height: points(size[1]) },
    pageMargins: 0,
    defaultStyle: { font: 'Mono', fontSize: 8 },
    content,
  });
}

/** Name above, price at the lower left, above it what it was before an offer, barcode at the lower right. */
function labelOf(
  { name, number, code }: store.LabelLine,
  { now, before, until }: { now: string; before: string; until: string },
  { width, height }: LabelLayout,
  { x, y }: { x: number; y: number },
): Content[] {
  const at = (fromLeft: number, fromTop: number) => ({ x: points(x + fromLeft), y: points(y + fromTop) });
  const inner = width - 2 * PAD;
  const small = height < 250;
  const lower = Math.round(height * (small ? 0.42 : 0.5));
  const letters = Math.floor(points(inner) / 4.9);
  return [
    {
      columns: [
        {
          text: name.length > letters * 2 ? `${name.slice(0, letters * 2 - 1)}…` : name,
          bold: true,
          width: points(inner),
        },
      ],
      absolutePosition: at(PAD, PAD),
    },
    { text: now, bold: true, fontSize: small ? 12 : 17, absolutePosition: at(PAD, lower) },
    ...(before === ''
      ? []
      : [
          {
            text: before,
            decoration: 'lineThrough' as const,
            fontSize: 7,
            absolutePosition: at(PAD, lower - (small ? 28 : 32)),
          },
          { text: until, fontSize: 6, absolutePosition: at(PAD, height - PAD - 48) },
        ]),
    { text: number, fontSize: 6, absolutePosition: at(PAD, height - PAD - 24) },
    barcode(barcodeOptions(code), {
      fit: [points(inner * 0.52), points(height - lower - PAD)],
      absolutePosition: at(PAD + inner * 0.48, lower),
    }),
  ];
}

const barcodeOptions = (code: string) => {
  const { symbology: bcid, text } = labelBarcode(code);
  return { bcid, text, includetext: true, height: 9 };
};

/** The barcode of a label as a picture, as a reader sees it. */
export const barcodePicture = (code: string): Promise<Buffer> =>
  bwipjs.toBuffer({ ...barcodeOptions(code), scale: 4, backgroundcolor: 'ffffff', padding: 10 });
