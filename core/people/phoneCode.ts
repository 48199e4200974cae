import { headRows, type ReceiptHead } from '../journal/receipt.ts';
import type { Paper, PaperRow } from '../journal/paper.ts';

const DIGITS = 12;

/** A code for somebody's telephone: a letter, so that it is no number of goods, and digits. @param random gives one from 0 to 9 */
export const newPhoneCode = (random: () => number): string =>
  `P${Array.from({ length: DIGITS }, random).join('')}`;

/** What a mail says so that it is shown instead of a card. */
export const phoneCodeRows = (code: string): PaperRow[] => [
  { kind: 'gap' },
  { kind: 'barcode', text: code },
  { kind: 'centre', text: 'Show this at the till instead of a card.' },
];

/** What a mail says that brings somebody the code for their telephone. @param facts pairs of what and how much, their points say */
export function phonePaper(
  shop: ReceiptHead,
  { name, code, facts }: { name: string; code: string; facts: readonly (readonly [string, string])[] },
): Paper {
  return {
    title: 'Your code',
    rows: [
      ...headRows(shop),
      { kind: 'title', text: name },
      ...phoneCodeRows(code),
      ...(facts.length > 0 ? [{ kind: 'rule' } as const] : []),
      ...facts.map(([left, right]): PaperRow => ({ kind: 'pair', left, right })),
    ],
  };
}
