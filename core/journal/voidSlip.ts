import { formatMoney, type Money } from '../money.ts';
import type { Paper } from './paper.ts';

/** The slip of a voided sale: what goes back the way it came. */
export function voidSlip(sale: {
  shop: string;
  till: string;
  when: string;
  receipt: string;
  total: Money;
  tenders: readonly { name: string; amount: Money }[];
  reason: string;
  by: string;
  approvedBy: string | null;
  digits: number;
}): Paper {
  const money = (amount: Money) => formatMoney(amount, sale.digits);
  return {
    title: `Void of ${sale.receipt}`,
    rows: [
      { kind: 'title', text: sale.shop },
      { kind: 'centre', text: `Sale ${sale.receipt} voided` },
      { kind: 'gap' },
      { kind: 'pair', left: sale.till, right: sale.when },
      { kind: 'pair', left: 'Total of the sale', right: money(sale.total), strong: true },
      ...sale.tenders.map(({ name, amount }) => ({
        kind: 'pair' as const,
        left: amount > 0 ? `Back: ${name}` : `Taken back: ${name}`,
        right: money(Math.abs(amount)),
      })),
      { kind: 'text', text: sale.reason },
      { kind: 'pair', left: 'Done by', right: sale.by },
      ...(sale.approvedBy ? [{ kind: 'pair' as const, left: 'Approved by', right: sale.approvedBy }] : []),
      { kind: 'signature', path: '', label: 'Signed' },
    ],
  };
}
