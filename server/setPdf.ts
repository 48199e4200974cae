import { createRequire } from 'node:module';
import anyAscii from 'any-ascii';
import bwipjs, { type RenderOptions } from 'bwip-js/node';
import pdfmake from 'pdfmake';
import type { Content } from 'pdfmake/interfaces.js';
import type { Sheet } from './pdf.ts';

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

/** The same content, with every text in fonts that have its letters, and barcodes drawn. */
function inFonts<T>(content: T): T {
  if (Array.isArray(content)) return content.map(inFonts) as T;
  if (typeof content === 'string') return content;
  if (typeof content !== 'object' || content === null) return content;
  return Object.fromEntries(
    Object.entries(content).map(([key, value]: [string, unknown]) => {
      if (key === 'barcode') return ['svg', bwipjs.toSVG(value as RenderOptions)];
      if (key !== 'text' || typeof value !== 'string') return [key, key === 'svg' ? value : inFonts(value)];
      const runs = textRuns(value);
      return [key, runs.every(({ font }) => font === 'Mono') ? runs.map(({ text }) => text).join('') : runs];
    }),
  ) as T;
}

/** What stands at the foot of each sheet where they are numbered. */
const pageNumber = (page: number, pages: number): Content => ({
  text: `${page} of ${pages}`,
  alignment: 'right',
  margin: [36, 8, 36, 0],
  fontSize: 8,
});

/**
 * Sets a document as PDF in the shipped font, here and now: for a thread that has nothing else to do. It holds nothing
 * from elsewhere; only that font is read.
 * @param progress is told how far it is, from 0 to 1
 */
export function setPdf(
  { content, numbered, ...document }: Sheet,
  progress?: (part: number) => void,
): Promise<Buffer> {
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
      ...(numbered && { footer: pageNumber }),
      defaultStyle: { ...document.defaultStyle, font: 'Mono' },
      content: inFonts<Content>(content),
    })
    .getBuffer();
}
