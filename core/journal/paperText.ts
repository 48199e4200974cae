import type { Paper, PaperRow } from './paper.ts';

/** Columns of the usual 80 mm paper. */
export const COLUMNS = 42;

/**
 * Sets a paper as plain text of a fixed width. No line is wider than `columns`; long words wrap, and an
 * amount always stands at the right edge of the last line of its row.
 */
export function paperText(paper: Paper, columns = COLUMNS): string {
  return `${paper.rows.flatMap((row) => rowText(row, columns)).join('\n')}\n`;
}

function rowText(row: PaperRow, columns: number): string[] {
  switch (row.kind) {
    case 'logo':
      // Text has no pictures; the name of the shop follows.
      return [];
    case 'gap':
      return [''];
    case 'rule':
      return ['-'.repeat(columns)];
    case 'title':
      return wrap(row.text.toUpperCase(), columns).map((line) => centre(line, columns));
    case 'centre':
      return wrap(row.text, columns).map((line) => centre(line, columns));
    case 'barcode':
      return [centre(`*${row.text}*`, columns)];
    case 'signature':
      return ['', '_'.repeat(columns), ...wrap(row.label, columns)];
    case 'text':
      return wrap(row.text, columns);
    case 'pair':
      return pairText(row, columns);
  }
}

function pairText(row: Extract<PaperRow, { kind: 'pair' }>, columns: number): string[] {
  const indent = row.indent ? '  ' : '';
  const width = columns - indent.length;
  const room = row.right ? width - row.right.length - 1 : width;
  const lines = wrap(row.left, Math.max(8, room)).map((line) => indent + line);
  const last = lines.pop() ?? indent;
  if (!row.right) return [...lines, last];
  if (last.length + 1 + row.right.length > columns) return [...lines, last, row.right.padStart(columns)];
  return [...lines, last + row.right.padStart(columns - last.length)];
}

function centre(text: string, columns: number): string {
  return ' '.repeat(Math.max(0, Math.floor((columns - text.length) / 2))) + text;
}

/** Breaks text at spaces into lines of at most `width` characters; a longer word is cut. */
function wrap(text: string, width: number): string[] {
  const lines: string[] = [];
  let line = '';
  for (let word of text.split(/\s+/).filter(Boolean)) {
    while (word.length > width) {
      if (line) lines.push(line);
      line = '';
      lines.push(word.slice(0, width));
      word = word.slice(width);
    }
    if (line && line.length + 1 + word.length > width) {
      lines.push(line);
      line = word;
    } else if (word) {
      line = line ? `${line} ${word}` : word;
    }
  }
  return line || lines.length === 0 ? [...lines, line] : lines;
}
