import { Readable } from 'node:stream';
import { parse } from 'csv-parse';

/** A line of a list, by its number in the file. */
export interface ListLine {
  line: number;
  cells: string[];
}

/** Words that a spreadsheet would compute are written with a mark before them. */
const MARKED = /^'(?=[=+\-@\t\r])/;

/** Which mark parts the columns of a list: the one that its first line has most of. */
function delimiterOf(content: string): string {
  const [first = ''] = content.replace(/^\uFEFF/, '').split(/\r?\n/, 1);
  const plain = first.replace(/"[^"]*"/g, '');
  const counted = [',', ';', '\t'].map((mark) => ({ mark, count: plain.split(mark).length }));
  return counted.toSorted((a, b) => b.count - a.count)[0]?.mark ?? ',';
}

/**
 * The lines of a list with commas, semicolons or tabs between its columns, headings first.
 * @param pieces the list bit by bit: a large one is read while others go on
 * @throws CsvError where quotes do not end, or lines have no end
 */
export async function* linesOf(pieces: AsyncGenerator<string>): AsyncGenerator<ListLine> {
  const { value: first } = await pieces.next();
  if (first === undefined) return;
  async function* all(): AsyncGenerator<string> {
    yield first ?? '';
    yield* pieces;
  }
  const parser = Readable.from(all()).pipe(
    parse({
      bom: true,
      delimiter: delimiterOf(first),
      relaxColumnCount: true,
      skipEmptyLines: true,
      info: true,
      maxRecordSize: 100_000,
    }),
  );
  let line = 0;
  for await (const { record } of parser as AsyncIterable<{ record: string[] }>) {
    line += 1;
    yield { line, cells: record.map((cell) => cell.trim().replace(MARKED, '')) };
  }
}

/** What the headings of a list name; each column once. */
export function columnsOf(
  headings: readonly string[],
  columnOf: (heading: string) => string | null,
): (string | null)[] {
  const found = headings.map(columnOf);
  return found.map((column, at) => (column !== null && found.indexOf(column) === at ? column : null));
}

/** A line by what its cells are. */
export function cellsBy(
  columns: readonly (string | null)[],
  cells: readonly string[],
): Partial<Record<string, string>> {
  const by: Partial<Record<string, string>> = {};
  columns.forEach((column, at) => {
    if (column) by[column] = cells[at] ?? '';
  });
  return by;
}
