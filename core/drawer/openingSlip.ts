import type { Step } from '../staff/approval.ts';
import type { Paper } from '../journal/paper.ts';

/** Opening the drawer without a sale as a step that may have to be approved. */
export const openingStep = (reason: string): Step => ({
  subject: `opening:${reason}`.slice(0, 160),
  from: null,
  to: null,
  unit: 'money',
  amount: null,
});

/** The slip that is kept when the drawer was opened without a sale. */
export function openingSlip(opening: {
  shop: string;
  till: string;
  when: string;
  by: string;
  approvedBy: string | null;
  reason: string;
}): Paper {
  return {
    title: 'Drawer opened without a sale',
    rows: [
      { kind: 'title', text: opening.shop },
      { kind: 'centre', text: 'Drawer opened without a sale' },
      { kind: 'gap' },
      { kind: 'pair', left: opening.till, right: opening.when },
      { kind: 'pair', left: 'Opened by', right: opening.by },
      ...(opening.approvedBy
        ? [{ kind: 'pair' as const, left: 'Approved by', right: opening.approvedBy }]
        : []),
      { kind: 'rule' },
      { kind: 'text', text: opening.reason },
    ],
  };
}
