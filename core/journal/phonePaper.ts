import type { Paper, PaperRow } from './paper.ts';
import { headRows, type ReceiptHead } from './receipt.ts';

/** What a mail says so that it is shown instead of a card. */
export const phoneCodeRows = (code: string): PaperRow[] => [
  { kind: 'gap' },
  { kind: 'barcode', text: code },
  { kind: 'centre', text: 'Show this at the till instead of a card.' },
];

/**
 * What a mail says that brings somebody the code for their telephone. @param facts pairs of what and how much, their
 * points say
 */
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
