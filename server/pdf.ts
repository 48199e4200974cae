import { createRequire } from 'node:module';
import pdfmake from 'pdfmake';
import type { TDocumentDefinitions } from 'pdfmake/interfaces.js';

const require = createRequire(import.meta.url);
const fontFile = (weight: number) =>
  require.resolve(
    `@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-${weight}-normal.woff`,
  );

/** Sets a document as PDF in the shipped font, `Mono`. It holds nothing from elsewhere; only that font is read. */
export function makePdf(document: TDocumentDefinitions): Promise<Buffer> {
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path) => path.includes('@fontsource'));
  pdfmake.setFonts({ Mono: { normal: fontFile(400), bold: fontFile(700) } });
  return pdfmake.createPdf(document).getBuffer();
}
