import type { Worker } from 'node:worker_threads';
import type { RenderOptions } from 'bwip-js/node';
import type { Content, ContentSvg, TDocumentDefinitions } from 'pdfmake/interfaces.js';
import { startThread } from './thread.ts';

/**
 * A paper that says how large its sheets are: pdfmake's own are those of one half of the world. It is sent to a
 * thread, so nothing of it is a function.
 */
export type Sheet = Omit<TDocumentDefinitions, 'background' | 'footer' | 'header' | 'pageBreakBefore'> &
  Required<Pick<TDocumentDefinitions, 'pageSize'>> & {
    background?: Content;
    /** Whether each sheet says which one of how many it is. */
    numbered?: boolean;
  };

/** A barcode, which is drawn where the document is set: many take their time. */
export function barcode(options: RenderOptions, place: Omit<ContentSvg, 'svg'>): Content {
  const drawn = { ...place, svg: '', barcode: options };
  return drawn;
}

/** What a thread is sent, and what it answers. */
export interface ToSet {
  id: number;
  sheet: Sheet;
}
export type WasSet = { to: number } & ({ pdf: Uint8Array } | { trouble: string });

/** Something short does not wait for something long. */
const MOST_THREADS = 2;
interface Setter {
  worker: Worker;
  waiting: Map<number, { resolve(pdf: Buffer): void; reject(error: Error): void }>;
}
const setters = new Set<Setter>();
let lastId = 0;

function start(): Setter {
  const setter: Setter = { worker: startThread('pdfThread'), waiting: new Map() };
  setter.worker.unref();
  setter.worker.on('message', (answer: WasSet) => {
    const one = setter.waiting.get(answer.to);
    setter.waiting.delete(answer.to);
    if ('pdf' in answer) one?.resolve(Buffer.from(answer.pdf));
    else one?.reject(new Error(answer.trouble));
  });
  function end(error: Error): void {
    // The next document starts another one.
    setters.delete(setter);
    for (const { reject } of setter.waiting.values()) reject(error);
    setter.waiting.clear();
  }
  setter.worker.on('error', end);
  setter.worker.on('exit', () => end(new Error('the thread that sets documents has ended')));
  setters.add(setter);
  return setter;
}

/** Sets a document as PDF in a thread of its own: sheets of labels take seconds, and tills go on. */
export function makePdf(sheet: Sheet): Promise<Buffer> {
  const [quiet] = [...setters].sort((a, b) => a.waiting.size - b.waiting.size);
  const setter = quiet && (quiet.waiting.size === 0 || setters.size === MOST_THREADS) ? quiet : start();
  const id = ++lastId;
  return new Promise((resolve, reject) => {
    setter.worker.postMessage({ id, sheet } satisfies ToSet);
    setter.waiting.set(id, { resolve, reject });
  });
}

/** Where letters are 8.5 by 11 inches (CLDR, `paperSize`); everywhere else sheets are A4. */
const LETTER = /-(BZ|CA|CL|CO|CR|GT|MX|NI|PA|PH|PR|SV|US|VE)$/;

/** The size of the sheets where a shop is. @param locale a BCP 47 tag */
export const pageSizeOf = (locale: string): 'A4' | 'LETTER' => (LETTER.test(locale) ? 'LETTER' : 'A4');

export interface PdfTable {
  title: string;
  /** Under the title: for which days, say. */
  subtitle: string;
  headings: { text: string; right?: boolean }[];
  rows: string[][];
  /** A last row in bold. */
  sums?: string[];
  locale: string;
}

/** A table on as many sheets as it needs: across them, the headings again on each, no row torn in two. */
export function tableSheet({ title, subtitle, headings, rows, sums, locale }: PdfTable): Sheet {
  const cell = (text: string, at: number, bold = false) => ({
    text,
    bold,
    ...(headings[at]?.right ? { alignment: 'right' as const } : {}),
  });
  return {
    info: { title },
    pageSize: pageSizeOf(locale),
    pageOrientation: headings.length > 6 ? 'landscape' : 'portrait',
    pageMargins: [36, 36, 36, 42],
    defaultStyle: { fontSize: 8 },
    numbered: true,
    content: [
      { text: title, bold: true, fontSize: 15 },
      { text: subtitle, margin: [0, 2, 0, 10] },
      {
        layout: 'lightHorizontalLines',
        table: {
          headerRows: 1,
          dontBreakRows: true,
          widths: headings.map(({ right }) => (right ? 'auto' : '*')),
          body: [
            headings.map(({ text }, at) => cell(text, at, true)),
            ...rows.map((row) => row.map((text, at) => cell(text, at))),
            ...(sums ? [sums.map((text, at) => cell(text, at, true))] : []),
          ],
        },
      },
    ],
  };
}

export const tablePdf = (table: PdfTable): Promise<Buffer> => makePdf(tableSheet(table));
