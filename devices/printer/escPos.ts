import CodepageEncoder from '@point-of-sale/codepage-encoder';
import Encoder from '@point-of-sale/receipt-printer-encoder';
import anyAscii from 'any-ascii';
import { PNG } from 'pngjs';
import type { Paper, PaperRow } from '../../core/journal/paper.ts';
import { paperText } from '../../core/journal/paperText.ts';
import type { CodePage, PrinterAbilities } from '../../core/journal/printerSetup.ts';

type Bytes = InstanceType<typeof Encoder>;

const UNKNOWN = '?'.charCodeAt(0);
/** Lines that pass the knife, or the edge on which paper is torn. */
const FEED = 4;
const known = new Map<string, string>();

/** What the printer has for a character: itself, or what it is written as in plain letters. */
function printable(character: string, codePage: CodePage): string {
  if (character <= '~') return character;
  const key = `${codePage}${character}`;
  const before = known.get(key);
  if (before !== undefined) return before;
  const [byte] = CodepageEncoder.encode(character, codePage);
  // The minus of figures is not in any code page of printers.
  const found = character === '\u2212' ? '-' : byte === UNKNOWN ? anyAscii(character) : character;
  known.set(key, found);
  return found;
}

/** Text that the printer can set: no letter comes out as a question mark, and columns stay where they are. */
const toPrint = (text: string, codePage: CodePage): string =>
  Array.from(text.normalize('NFC'), (character) => printable(character, codePage)).join('');

/** Sets a paper as the bytes that a receipt printer understands (ESC/POS), with the pulse that opens the drawer. */
export function escPos(paper: Paper, openDrawer: boolean, printer: PrinterAbilities): Uint8Array {
  const { columns, codePage, cutter, pulse } = printer;
  const encoder = new Encoder({ language: 'esc-pos', columns, imageMode: 'raster' });
  // One page for the whole paper: finding the best for every line takes a hundred times as long.
  encoder.initialize().codepage(codePage);
  if (openDrawer && pulse) encoder.pulse();
  for (const row of paper.rows) addRow(encoder, row, printer);
  if (paper.rows.length > 0) {
    encoder.newline(FEED);
    if (cutter) encoder.cut();
  }
  return encoder.encode();
}

function addRow(encoder: Bytes, row: PaperRow, { columns, codePage }: PrinterAbilities): void {
  switch (row.kind) {
    case 'logo':
      return addLogo(encoder, row.source);
    case 'title':
      encoder.align('center').bold(true).line(toPrint(row.text, codePage)).bold(false).align('left');
      return;
    case 'barcode':
      encoder.align('center').barcode(row.text, 'code128', { height: 60, text: true }).align('left');
      return;
    default: {
      const bold = row.kind === 'pair' && (row.strong ?? false);
      encoder.bold(bold);
      // Columns are set as for text, so that paper and text agree.
      const lines = paperText({ title: '', rows: [plainRow(row, codePage)] }, columns)
        .slice(0, -1)
        .split('\n');
      for (const line of lines) encoder.line(line);
      encoder.bold(false);
    }
  }
}

/** A row in what the printer can set, before its columns are laid out: some letters become two. */
function plainRow(row: PaperRow, codePage: CodePage): PaperRow {
  switch (row.kind) {
    case 'text':
    case 'centre':
      return { ...row, text: toPrint(row.text, codePage) };
    case 'signature':
      return { ...row, label: toPrint(row.label, codePage) };
    case 'pair':
      return { ...row, left: toPrint(row.left, codePage), right: toPrint(row.right, codePage) };
    default:
      return row;
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
