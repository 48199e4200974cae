import Encoder from '@point-of-sale/receipt-printer-encoder';
import { PNG } from 'pngjs';
import type { Paper, PaperRow } from '../../core/journal/paper.ts';
import { COLUMNS, paperText } from '../../core/journal/paperText.ts';

type Bytes = InstanceType<typeof Encoder>;

/** Sets a paper as the bytes that a receipt printer understands (ESC/POS), with the pulse that opens the drawer. */
export function escPos(paper: Paper, openDrawer: boolean): Uint8Array {
  const encoder = new Encoder({ language: 'esc-pos', columns: COLUMNS, imageMode: 'raster' });
  // Latin letters of the West; finding the best of all code pages for every line takes a hundred times as long.
  encoder.initialize().codepage('cp858');
  if (openDrawer) encoder.pulse();
  for (const row of paper.rows) addRow(encoder, row);
  if (paper.rows.length > 0) encoder.newline(4).cut();
  return encoder.encode();
}

function addRow(encoder: Bytes, row: PaperRow): void {
  switch (row.kind) {
    case 'logo':
      return addLogo(encoder, row.source);
    case 'title':
      encoder.align('center').bold(true).line(row.text).bold(false).align('left');
      return;
    case 'barcode':
      encoder.align('center').barcode(row.text, 'code128', { height: 60, text: true }).align('left');
      return;
    default: {
      const bold = row.kind === 'pair' && (row.strong ?? false);
      encoder.bold(bold);
      // Columns are set as for text, so that paper and text agree.
      const lines = paperText({ title: '', rows: [row] })
        .slice(0, -1)
        .split('\n');
      for (const line of lines) encoder.line(line);
      encoder.bold(false);
    }
  }
}

/** Pictures come as PNG, as wide as the printer takes them: a multiple of eight dots each way. */
function addLogo(encoder: Bytes, source: string): void {
  const [, data] = /^data:image\/png;base64,(.+)$/.exec(source) ?? [];
  if (!data) return;
  const { data: pixels, width, height } = PNG.sync.read(Buffer.from(data, 'base64'));
  if (width % 8 !== 0 || height % 8 !== 0) return;
  const image = { data: new Uint8ClampedArray(pixels), width, height } as ImageData;
  encoder.align('center').image(image, width, height, 'threshold').align('left');
}
