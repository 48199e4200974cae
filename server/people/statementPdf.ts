import type { Content } from 'pdfmake/interfaces.js';
import { ACCOUNT_ITEM_WORDS } from '../../core/people/accountItemKinds.ts';
import { AGES, type Age } from '../../core/people/accountAge.ts';
import type { Statement } from '../../core/people/statement.ts';
import { fitAddress, WINDOW_SHEETS } from '../../core/people/windowSheet.ts';
import { formatMoneyIn, type Money } from '../../core/money.ts';
import type { Sheet } from '../pdf.ts';

/** A statement as it is written: in words of the shop's language, for the window of an envelope. */
export interface StatementSheet {
  shop: { name: string; words: readonly string[] };
  /** To whom, line by line. */
  address: readonly string[];
  number: string;
  /** Written as the shop writes days. */
  from: string;
  to: string;
  statement: Statement;
  /** Days by how they are written. */
  days: Readonly<Record<string, string>>;
  buyer: string | null;
  howToPay: string;
  locale: string;
  digits: number;
  currency: string;
}

const mm = (millimetres: number): number => (millimetres * 72) / 25.4;
/** Of the shipped font, as parts of its size. */
const FONT = { width: 0.632, line: 1.3 };
const LEFT = 20;
const TOP = 14;

/** Statements as one document, each beginning on a sheet of its own with the address where the window is. */
export function statementsOn(sheets: readonly StatementSheet[], size: 'A4' | 'LETTER'): Sheet {
  return {
    info: { title: sheets.length === 1 ? `Statement ${sheets[0]?.number ?? ''}` : 'Statements' },
    pageSize: size,
    pageMargins: [mm(LEFT), mm(TOP), mm(LEFT), mm(16)],
    defaultStyle: { fontSize: 9 },
    background: {
      canvas: WINDOW_SHEETS[size].folds.map((fold) => ({
        type: 'line' as const,
        x1: mm(3),
        x2: mm(7),
        y1: mm(fold),
        y2: mm(fold),
        lineWidth: 0.4,
      })),
    },
    content: sheets.flatMap((sheet, at) => statement(sheet, size, at > 0)),
  };
}

function statement(sheet: StatementSheet, size: 'A4' | 'LETTER', next: boolean): Content[] {
  const { address: area, below } = WINDOW_SHEETS[size];
  const { shop, number, from, to, statement: of, buyer, howToPay } = sheet;
  const money = (amount: Money) => formatMoneyIn(sheet.locale, amount, sheet.digits);
  const fitted = fitAddress(sheet.address, area, FONT);
  const at = (x: number, y: number) => ({ absolutePosition: { x: mm(x), y: mm(y) } });
  return [
    { text: ' ', fontSize: 1, ...(next ? { pageBreak: 'before' as const } : {}) },
    {
      ...at(LEFT, TOP),
      stack: [
        { text: shop.name, bold: true, fontSize: 13 },
        ...shop.words.slice(0, 6).map((text) => ({ text, fontSize: 8 })),
      ],
    },
    {
      ...at(120, TOP),
      stack: [
        { text: 'Statement', bold: true, fontSize: 13 },
        { text: `House account ${number}` },
        { text: `${from} to ${to}` },
        ...(buyer === null ? [] : [{ text: `Bought by ${buyer}` }]),
      ],
    },
    // Line by line: no line is broken again.
    ...fitted.lines.map((text, line) => ({
      text,
      fontSize: fitted.size,
      noWrap: true,
      absolutePosition: { x: mm(area.x), y: mm(area.y) + line * fitted.size * FONT.line },
    })),
    { text: ' ', fontSize: 1, margin: [0, mm(below - TOP - 3), 0, 0] },
    {
      layout: 'lightHorizontalLines',
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: ['auto', '*', 'auto', 'auto'],
        body: [
          [
            { text: 'Day', bold: true },
            { text: 'What', bold: true },
            { text: sheet.currency, bold: true, alignment: 'right' },
            { text: 'Owed', bold: true, alignment: 'right' },
          ],
          ...(buyer === null ? [['', { text: 'Owed before' }, '', right(money(of.before))]] : []),
          ...of.rows.map((row) => [
            { text: sheet.days[row.day] ?? row.day },
            { text: whatWords(row) },
            right(money(row.amount)),
            right(money(row.running)),
          ]),
          [
            '',
            { text: buyer === null ? 'Owed now' : 'Bought, less what came back', bold: true },
            '',
            { text: money(of.after), bold: true, alignment: 'right' },
          ],
        ],
      },
    },
    ...(of.buyers.length > 1
      ? [
          {
            margin: [0, 8, 0, 0] as [number, number, number, number],
            text: `Of it ${of.buyers.map(({ name, charged }) => `${name} ${money(charged)}`).join(', ')}.`,
          },
        ]
      : []),
    ...(of.ages && of.after > 0 ? [agesOf(of.ages, money)] : []),
    ...(howToPay && of.after > 0
      ? [
          {
            text: howToPay.replaceAll('{number}', number),
            margin: [0, 10, 0, 0] as [number, number, number, number],
          },
        ]
      : []),
  ];
}

const right = (text: string) => ({ text, alignment: 'right' as const });

function whatWords({ kind, receipt, buyer, reference, words }: Statement['rows'][number]): string {
  const what = [ACCOUNT_ITEM_WORDS[kind], receipt && `receipt ${receipt}`, buyer, reference, words];
  return what.filter(Boolean).join(', ');
}

function agesOf(ages: Readonly<Record<Age, Money>>, money: (amount: Money) => string): Content {
  const all = Object.keys(AGES) as Age[];
  return {
    margin: [0, 12, 0, 0],
    layout: 'lightHorizontalLines',
    table: {
      widths: all.map(() => '*'),
      body: [
        all.map((age) => ({ text: AGES[age], bold: true, fontSize: 8, alignment: 'right' as const })),
        all.map((age) => right(money(ages[age]))),
      ],
    },
  };
}
