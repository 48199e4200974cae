import { readBarcode } from './barcode.ts';

/** Sizes of pages, in tenths of a millimetre. */
export const LABEL_PAGES = { A4: [2100, 2970], Letter: [2159, 2794] } as const;
export type LabelPage = keyof typeof LABEL_PAGES;

/** How labels lie on a sheet, or how large those of a roll are. All lengths in tenths of a millimetre. */
export interface LabelLayout {
  kind: 'sheet' | 'roll';
  page: LabelPage;
  columns: number;
  rows: number;
  width: number;
  height: number;
  /** From the edges of the sheet to the first label. */
  left: number;
  top: number;
  /** Between labels. */
  gapX: number;
  gapY: number;
}

/** Three times eight to a sheet, as most shops have them. */
export const USUAL_LAYOUT: LabelLayout = {
  kind: 'sheet',
  page: 'A4',
  columns: 3,
  rows: 8,
  width: 640,
  height: 338,
  left: 72,
  top: 133,
  gapX: 25,
  gapY: 0,
};

/** Why a layout cannot be printed, by its field; nothing where it can. */
export function layoutProblems(layout: LabelLayout): Partial<Record<keyof LabelLayout, string>> {
  const { kind, page, columns, rows, width, height, left, top, gapX, gapY } = layout;
  if (width < 150) return { width: 'A label is at least 15 mm wide.' };
  if (height < 100) return { height: 'A label is at least 10 mm high.' };
  if (kind === 'roll') return {};
  const [pageWidth, pageHeight] = LABEL_PAGES[page];
  if (left + columns * width + (columns - 1) * gapX > pageWidth)
    return { columns: 'So many do not fit beside each other on the sheet.' };
  if (top + rows * height + (rows - 1) * gapY > pageHeight)
    return { rows: 'So many do not fit below each other on the sheet.' };
  return {};
}

/** Where a label stands: on which page, and how far from its left and upper edge. */
export interface LabelPlace {
  page: number;
  x: number;
  y: number;
}

export const labelsPerSheet = ({ kind, columns, rows }: LabelLayout): number =>
  kind === 'roll' ? 1 : columns * rows;

/** The places of so many labels, row by row. @param first the first free place of the first sheet, from 1 */
export function labelPlaces(layout: LabelLayout, count: number, first: number): LabelPlace[] {
  const each = labelsPerSheet(layout);
  const begin = layout.kind === 'roll' ? 0 : first - 1;
  return Array.from({ length: count }, (_, nth) => {
    const at = begin + nth;
    const [page, on] = [Math.floor(at / each), at % each];
    if (layout.kind === 'roll') return { page, x: 0, y: 0 };
    const [row, column] = [Math.floor(on / layout.columns), on % layout.columns];
    return {
      page,
      x: layout.left + column * (layout.width + layout.gapX),
      y: layout.top + row * (layout.height + layout.gapY),
    };
  });
}

/** As what a code is printed: in its own number system where it has one, else as Code 128. */
export function labelBarcode(code: string): { symbology: 'ean13' | 'ean8' | 'code128'; text: string } {
  const [known] = readBarcode(code);
  if (!known) return { symbology: 'code128', text: code };
  return { symbology: known.symbology === 'EAN-8' ? 'ean8' : 'ean13', text: known.canonical };
}
