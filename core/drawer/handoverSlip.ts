import type { Paper } from '../journal/paper.ts';
import { formatMoney, type Money } from '../money.ts';
import type { Currency } from '../payment/currency.ts';
import type { Pieces } from './countSheet.ts';
import { piecesWords, varianceWords } from './shiftReport.ts';

/** The slip of a drawer that goes to the next person without being closed; both sign it. */
export function handoverSlip(handover: {
  shop: string;
  till: string;
  when: string;
  from: string;
  to: string;
  pieces: Pieces;
  counted: Money;
  expected: Money;
  note: string;
  currency: Currency;
}): Paper {
  const { currency, counted, expected } = handover;
  return {
    title: 'Hand over',
    rows: [
      { kind: 'title', text: handover.shop },
      { kind: 'centre', text: 'Drawer handed over' },
      { kind: 'gap' },
      { kind: 'pair', left: handover.till, right: handover.when },
      { kind: 'pair', left: 'From', right: handover.from },
      { kind: 'pair', left: 'To', right: handover.to },
      { kind: 'rule' },
      { kind: 'pair', left: 'Expected', right: formatMoney(expected, currency.digits) },
      { kind: 'pair', left: 'Counted', right: formatMoney(counted, currency.digits), strong: true },
      { kind: 'pair', left: 'Difference', right: varianceWords(counted - expected, currency.digits) },
      { kind: 'text', text: piecesWords(handover.pieces, currency) },
      ...(handover.note ? [{ kind: 'text' as const, text: handover.note }] : []),
      { kind: 'signature', path: '', label: `Signed: ${handover.from}` },
      { kind: 'signature', path: '', label: `Signed: ${handover.to}` },
    ],
  };
}
