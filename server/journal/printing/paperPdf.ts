import type { Content } from 'pdfmake/interfaces.js';
import type { Paper, PaperRow } from '../../../core/journal/paper.ts';
import { barcode, makePdf } from '../../pdf.ts';

const POINTS_PER_MM = 72 / 25.4;
const WIDTH = Math.round(80 * POINTS_PER_MM);
const MARGIN = 12;
const INNER = WIDTH - 2 * MARGIN;

/** Sets a paper as PDF on a strip 80 mm wide, as long as it needs. */
export async function paperPdf(paper: Paper): Promise<Buffer> {
  return makePdf({
    info: { title: paper.title },
    pageSize: { width: WIDTH, height: 'auto' },
    pageMargins: MARGIN,
    defaultStyle: { font: 'Mono', fontSize: 8 },
    content: paper.rows.map(content),
  });
}

function content(row: PaperRow): Content {
  switch (row.kind) {
    case 'logo':
      return { image: row.source, width: 90, alignment: 'center', margin: [0, 0, 0, 4] };
    case 'title':
      return { text: row.text, bold: true, fontSize: 11, alignment: 'center', margin: [0, 0, 0, 2] };
    case 'centre':
      return { text: row.text, alignment: 'center' };
    case 'text':
      return { text: row.text };
    case 'gap':
      return { text: ' ', fontSize: 5 };
    case 'rule':
      return {
        canvas: [{ type: 'line', x1: 0, y1: 0, x2: INNER, y2: 0, lineWidth: 0.7 }],
        margin: [0, 3, 0, 3],
      };
    case 'barcode':
      return barcode(
        { bcid: 'code128', text: row.text, includetext: true, height: 9 },
        { width: 130, alignment: 'center', margin: [0, 4, 0, 4] },
      );
    case 'signature':
      return signature(row);
    case 'pair': {
      const bold = row.strong ?? false;
      return {
        columns: [
          { text: row.left, bold, width: '*', margin: [row.indent ? 8 : 0, 0, 0, 0] },
          ...(row.right
            ? [{ text: row.right, bold, width: 'auto' as const, alignment: 'right' as const }]
            : []),
        ],
        columnGap: 6,
      };
    }
  }
}

function signature({ path, label }: Extract<PaperRow, { kind: 'signature' }>): Content {
  const drawing = path
    ? `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 120"><path d="${path}" fill="none" stroke="black" stroke-width="2"/></svg>`
    : '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 60"></svg>';
  return {
    stack: [
      { svg: drawing, width: INNER },
      { canvas: [{ type: 'line', x1: 0, y1: 0, x2: INNER, y2: 0, lineWidth: 0.7 }] },
      { text: label, margin: [0, 2, 0, 0] },
    ],
    margin: [0, 6, 0, 0],
  };
}
