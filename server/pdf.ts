import { createRequire } from 'node:module';
import anyAscii from 'any-ascii';
import pdfmake from 'pdfmake';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces.js';

const require = createRequire(import.meta.url);
const FONT = '@fontsource/atkinson-hyperlegible-mono';
const fontFile = (part: string, weight: number) =>
  require.resolve(`${FONT}/files/atkinson-hyperlegible-mono-${part}-${weight}-normal.woff`);

/** The shipped font comes in two parts; each lists the characters that it has (CSS `unicode-range`). */
const RANGES = require(`${FONT}/unicode.json`) as Record<'latin' | 'latin-ext', string>;
const PARTS = [
  { font: 'Mono', part: 'latin' },
  { font: 'MonoExt', part: 'latin-ext' },
] as const;

function hasCharacter(part: (typeof PARTS)[number]['part'], character: string): boolean {
  const code = character.codePointAt(0) ?? 0;
  return RANGES[part].split(',').some((range) => {
    const [first = '', last = first] = range.replace('U+', '').split('-');
    return parseInt(first, 16) <= code && code <= parseInt(last, 16);
  });
}

const fonts = new Map<string, string | undefined>();
function fontOf(character: string): string | undefined {
  if (!fonts.has(character)) {
    fonts.set(character, PARTS.find(({ part }) => hasCharacter(part, character))?.font);
  }
  return fonts.get(character);
}

export interface TextRun {
  text: string;
  font: string;
}

/**
 * A text in runs of one font each: letters that the one part lacks come from the other, and those that neither has
 * are written in plain letters, so that nothing is left out.
 */
export function textRuns(text: string): TextRun[] {
  const runs: TextRun[] = [];
  for (const character of text.normalize('NFC')) {
    const known = fontOf(character);
    const run = { text: known ? character : anyAscii(character), font: known ?? 'Mono' };
    const last = runs.at(-1);
    if (last?.font === run.font) last.text += run.text;
    else runs.push(run);
  }
  return runs;
}

/** The same content, with every text in fonts that have its letters. */
function inFonts<T>(content: T): T {
  if (Array.isArray(content)) return content.map(inFonts) as T;
  if (typeof content === 'string') return content;
  if (typeof content !== 'object' || content === null) return content;
  return Object.fromEntries(
    Object.entries(content).map(([key, value]: [string, unknown]) => {
      if (key !== 'text' || typeof value !== 'string') return [key, key === 'svg' ? value : inFonts(value)];
      const runs = textRuns(value);
      return [key, runs.every(({ font }) => font === 'Mono') ? runs.map(({ text }) => text).join('') : runs];
    }),
  ) as T;
}

/** A paper that says how large its sheets are: pdfmake's own are those of one half of the world. */
export type Sheet = TDocumentDefinitions & Required<Pick<TDocumentDefinitions, 'pageSize'>>;

/**
 * Sets a document as PDF in the shipped font. It holds nothing from elsewhere; only that font is read.
 * @param progress is told how far it is, from 0 to 1
 */
export function makePdf({ content, ...document }: Sheet, progress?: (part: number) => void): Promise<Buffer> {
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path) => path.includes('@fontsource'));
  pdfmake.setFonts(
    Object.fromEntries(
      PARTS.map(({ font, part }) => [font, { normal: fontFile(part, 400), bold: fontFile(part, 700) }]),
    ),
  );
  if (progress) pdfmake.setProgressCallback(progress);
  return pdfmake
    .createPdf({
      ...document,
      defaultStyle: { ...document.defaultStyle, font: 'Mono' },
      content: inFonts<Content>(content),
    })
    .getBuffer();
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
export function tablePdf({ title, subtitle, headings, rows, sums, locale }: PdfTable): Promise<Buffer> {
  const cell = (text: string, at: number, bold = false) => ({
    text,
    bold,
    ...(headings[at]?.right ? { alignment: 'right' as const } : {}),
  });
  return makePdf({
    info: { title },
    pageSize: pageSizeOf(locale),
    pageOrientation: headings.length > 6 ? 'landscape' : 'portrait',
    pageMargins: [36, 36, 36, 42],
    defaultStyle: { fontSize: 8 },
    footer: (page, pages) => ({
      text: `${page} / ${pages}`,
      alignment: 'right',
      margin: [36, 8, 36, 0],
      fontSize: 8,
    }),
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
  });
}
