import { formatMoney, type Money } from '../money.ts';
import type { Paper } from '../journal/paper.ts';
import type { Step } from '../staff/approval.ts';
import type { Right } from '../staff/rights.ts';

/** Cash that moves without a sale: put in, taken out, or dropped into the safe. */
export type CashMoveKind = 'in' | 'out' | 'drop';

export const CASH_MOVES: Readonly<Record<CashMoveKind, { words: string; person: string; right: Right }>> = {
  in: { words: 'Cash in', person: 'From whom', right: 'drawer.cash-move' },
  out: { words: 'Cash out', person: 'To whom', right: 'drawer.cash-move' },
  drop: { words: 'Safe drop', person: 'Taken by', right: 'drawer.drop' },
};

/** Moving cash as a step that may have to be approved: the kind and exactly the amount. */
export const cashMoveStep = ({ kind, amount }: { kind: CashMoveKind; amount: Money }): Step => ({
  subject: `cash:${kind}`,
  from: null,
  to: amount,
  unit: 'money',
  amount,
});

/** The slip that goes into the drawer, or with the cash. */
export function cashSlip(move: {
  shop: string;
  till: string;
  when: string;
  by: string;
  approvedBy: string | null;
  kind: CashMoveKind;
  amount: Money;
  reason: string;
  person: string;
  digits: number;
}): Paper {
  const { words, person } = CASH_MOVES[move.kind];
  return {
    title: words,
    rows: [
      { kind: 'title', text: move.shop },
      { kind: 'centre', text: words },
      { kind: 'gap' },
      { kind: 'pair', left: move.till, right: move.when },
      { kind: 'pair', left: words, right: formatMoney(move.amount, move.digits), strong: true },
      { kind: 'text', text: move.reason },
      ...(move.person ? [{ kind: 'pair' as const, left: person, right: move.person }] : []),
      { kind: 'pair', left: 'Done by', right: move.by },
      ...(move.approvedBy ? [{ kind: 'pair' as const, left: 'Approved by', right: move.approvedBy }] : []),
      { kind: 'signature', path: '', label: move.person ? `Signed: ${move.person}` : 'Signed' },
    ],
  };
}
