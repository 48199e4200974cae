import { formatWeight } from '../../core/promises/shipping.ts';
import { barcode, makePdf } from '../pdf.ts';
import type { LabelFacts } from '../promises/orderPapers.ts';

const POINTS_PER_MM = 72 / 25.4;
/** ISO 216. */
const A6 = { width: 105 * POINTS_PER_MM, height: 148 * POINTS_PER_MM };
const MARGIN = 5 * POINTS_PER_MM;
const INNER = A6.width - 2 * MARGIN;

/** The label of a parcel on one sheet of A6: sender, recipient, the carrier's number and its barcode. */
export function labelPdf({ shop, from, to, number, tracking }: LabelFacts): Promise<Buffer> {
  const rule = {
    canvas: [{ type: 'line' as const, x1: 0, y1: 0, x2: INNER, y2: 0, lineWidth: 1 }],
    margin: [0, 6, 0, 6] as [number, number, number, number],
  };
  return makePdf({
    info: { title: `Label ${number}` },
    pageSize: A6,
    pageMargins: MARGIN,
    defaultStyle: { fontSize: 9 },
    content: [
      { text: `From ${shop}`, bold: true },
      { text: from.join(', '), fontSize: 8 },
      rule,
      { text: 'To', fontSize: 8 },
      { text: to.recipient, bold: true, fontSize: 15 },
      { text: to.street, fontSize: 13 },
      { text: `${to.postcode} ${to.city}`, bold: true, fontSize: 13 },
      ...(to.phone ? [{ text: `Tel. ${to.phone}` }] : []),
      ...(to.wishes ? [{ text: to.wishes, margin: [0, 4, 0, 0] as [number, number, number, number] }] : []),
      rule,
      { columns: [{ text: `Order ${number}` }, { text: formatWeight(to.weight), alignment: 'right' }] },
      barcode(
        { bcid: 'code128', text: tracking, height: 18 },
        { width: INNER * 0.9, alignment: 'center', margin: [0, 12, 0, 4] },
      ),
      { text: tracking, alignment: 'center', bold: true, fontSize: 13 },
    ],
  });
}
