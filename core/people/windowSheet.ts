/** A part of a sheet, in millimetres from its left and its top. */
export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface WindowSheet {
  width: number;
  height: number;
  /** Where the address is written: it is always seen through the window. */
  address: Area;
  /** What may be seen through the window, however the sheet lies: nothing else is written there. */
  seen: Area;
  /** Where the sheet is folded, from its top. */
  folds: readonly number[];
  /** From here on down the letter may be written. */
  below: number;
}

/**
 * Sheets that go into envelopes with a window.
 * A4: DIN 5008 form B, address field 85 × 45 mm, 20 mm from the left and 45 mm from the top, of which the lower 27.3 mm
 * are for the address. Letter: folded in three into a number 10 envelope (241.3 × 104.8 mm) with a window of
 * 114.3 × 28.6 mm, 22.2 mm from its left and 12.7 mm from its bottom; the sheet can lie 25.4 mm to the side and 6 mm
 * higher.
 */
export const WINDOW_SHEETS: Readonly<Record<'A4' | 'LETTER', WindowSheet>> = {
  A4: {
    width: 210,
    height: 297,
    address: { x: 22, y: 63, width: 81, height: 26 },
    seen: { x: 20, y: 45, width: 85, height: 45 },
    folds: [105, 210],
    below: 98,
  },
  LETTER: {
    width: 215.9,
    height: 279.4,
    address: { x: 23.5, y: 58.5, width: 86, height: 21 },
    seen: { x: -3.2, y: 51.8, width: 139.7, height: 34.6 },
    folds: [93.1, 186.3],
    below: 98,
  },
};

/** Breaks a line into pieces of at most so many characters, between words where it can. */
function broken(line: string, most: number): string[] {
  const pieces: string[] = [];
  let now = '';
  for (let word of line.split(/\s+/).filter(Boolean)) {
    while (word.length > most) {
      if (now) pieces.push(now);
      now = '';
      pieces.push(word.slice(0, most));
      word = word.slice(most);
    }
    if (now && now.length + 1 + word.length > most) {
      pieces.push(now);
      now = word;
    } else if (word) now = now ? `${now} ${word}` : word;
  }
  return now ? [...pieces, now] : pieces;
}

const POINTS_PER_MM = 72 / 25.4;
const LARGEST = 10.5;
const SMALLEST = 4;

/**
 * An address in the largest letters in which it fits into its area.
 * @param font width of a letter and height of a line, as parts of the size
 * @returns the size in points, and the lines; what does not fit in the smallest letters is cut at the end
 */
export function fitAddress(
  lines: readonly string[],
  area: Area,
  font: { width: number; line: number },
): { size: number; lines: string[] } {
  for (let size = LARGEST; ; size -= 0.5) {
    const most = Math.floor((area.width * POINTS_PER_MM) / (size * font.width));
    const fitted = lines.flatMap((line) => broken(line, most));
    const rows = Math.floor((area.height * POINTS_PER_MM) / (size * font.line));
    if (fitted.length <= rows || size <= SMALLEST) return { size, lines: fitted.slice(0, rows) };
  }
}
