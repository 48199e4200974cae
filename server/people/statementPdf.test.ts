import { getDocumentProxy } from 'unpdf';
import { describe, expect, it } from 'vitest';
import { statementOf } from '../../core/people/statement.ts';
import { WINDOW_SHEETS } from '../../core/people/windowSheet.ts';
import { setPdf } from '../setPdf.ts';
import { statementsOn, type StatementSheet } from './statementPdf.ts';

const long = (word: string, most: number) => `${word} `.repeat(most).slice(0, most).trim();

/** As much as an address can be: every field filled to its limit. */
const LONGEST = [
  long('Easterbrook-Vandermeulen', 120),
  long('Harbour Street Wind Ensemble', 120),
  long('Recipient', 80),
  long('Upper Harbour Rise', 120),
  `204170000000 ${long('Ferrisport-upon-Water', 80)}`,
];
const SHORT = ['Marit Solvane', 'Ferrisport Schools', '4 Harbour Rise', '20417 Ferrisport'];

function sheetFor(address: readonly string[]): StatementSheet {
  const items = Array.from({ length: 60 }, (_, at) => ({
    id: at + 1,
    day: '2026-02-10',
    kind: 'charge' as const,
    amount: 1_000 + at,
    receipt: `1-${String(at).padStart(4, '0')}`,
    buyer: 'Dorian Pell',
    reference: 'PO 1',
    words: '',
  }));
  return {
    shop: {
      name: 'Ostler Lane Music',
      words: ['One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight'],
    },
    address,
    number: 'A-0001',
    from: 'Feb 1, 2026',
    to: 'Feb 28, 2026',
    statement: statementOf(items, [{ dueOn: '2026-03-10', remaining: 61_770 }], {
      from: '2026-02-01',
      to: '2026-02-28',
    }),
    days: {},
    buyer: null,
    howToPay: 'Please write {number} as the reference.',
    locale: 'en-US',
    digits: 2,
    currency: 'USD',
  };
}

/** A text of a page and where it stands, in millimetres from the left and the top. */
interface Placed {
  text: string;
  x: number;
  top: number;
  bottom: number;
  width: number;
}

/** Of the shipped font, as parts of its size. */
const ASCENT = 0.984;
const DESCENT = 0.316;

const MM_PER_POINT = 25.4 / 72;

/** What stands where on the pages of a PDF. */
async function placed(pdf: Buffer): Promise<Placed[][]> {
  const document = await getDocumentProxy(new Uint8Array(pdf));
  const pages = Array.from({ length: document.numPages }, async (_, at): Promise<Placed[]> => {
    const page = await document.getPage(at + 1);
    const [, , , height = 0] = page.view;
    const { items } = await page.getTextContent();
    return items.flatMap((item) => {
      if (!('str' in item) || !item.str.trim()) return [];
      const [, , , , x = 0, y = 0] = item.transform as number[];
      return [
        {
          text: item.str,
          x: x * MM_PER_POINT,
          // Where letters begin and end, above and below the line that they stand on.
          top: (height - y - item.height * ASCENT) * MM_PER_POINT,
          bottom: (height - y + item.height * DESCENT) * MM_PER_POINT,
          width: item.width * MM_PER_POINT,
        },
      ];
    });
  });
  return Promise.all(pages);
}

describe('a statement in an envelope with a window', () => {
  for (const size of ['A4', 'LETTER'] as const) {
    it.each([
      ['the longest address', LONGEST],
      ['a usual one', SHORT],
    ])(`on ${size} shows %s and nothing else`, async (_, address) => {
      const { address: area, seen, below } = WINDOW_SHEETS[size];
      const [first, ...others] = await placed(await setPdf(statementsOn([sheetFor(address)], size)));
      expect(others.length).toBeGreaterThan(0);
      const inWindow = (first ?? []).filter(
        ({ x, width, top, bottom }) =>
          x < seen.x + seen.width && x + width > seen.x && top < seen.y + seen.height && bottom > seen.y,
      );
      const plain = (lines: readonly string[]) => lines.join('').replaceAll(/\s/g, '');
      expect(plain(inWindow.map(({ text }) => text))).toBe(plain(address));
      for (const { x, width, top, bottom } of inWindow) {
        expect(x).toBeGreaterThanOrEqual(area.x - 0.01);
        expect(x + width).toBeLessThanOrEqual(area.x + area.width + 0.01);
        expect(top).toBeGreaterThanOrEqual(area.y - 0.01);
        expect(bottom).toBeLessThanOrEqual(area.y + area.height + 0.01);
      }
      const letter = (first ?? []).filter(({ top }) => top >= seen.y + seen.height);
      expect(Math.min(...letter.map(({ top }) => top))).toBeGreaterThanOrEqual(below - 3);
    });
  }

  it('begins each statement on a sheet of its own, and says how far it is', async () => {
    const said: number[] = [];
    const pdf = await setPdf(
      statementsOn([sheetFor(SHORT), sheetFor(LONGEST), sheetFor(SHORT)], 'A4'),
      (part) => said.push(part),
    );
    const pages = await placed(pdf);
    const firsts = pages.filter((page) => page.some(({ text, top }) => text === 'Statement' && top < 20));
    expect(firsts).toHaveLength(3);
    expect(said.at(-1)).toBe(1);
  });
});
