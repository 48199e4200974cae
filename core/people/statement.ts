import { sum, type Money } from '../money.ts';
import { byAge, type ByAge, type OpenItem } from './accountAge.ts';
import type { AccountItemKind } from './accountItemKinds.ts';

/** What stands on a statement of an account. */
export interface StatementItem {
  id: number;
  day: string;
  kind: AccountItemKind;
  /** Above zero what was charged, below what was paid. */
  amount: Money;
  /** The receipt, as printed. */
  receipt: string | null;
  buyer: string | null;
  reference: string;
  words: string;
}

/** What happened on an account in some days, with what was owed before and after. */
export interface Statement {
  before: Money;
  rows: (StatementItem & { running: Money })[];
  charged: Money;
  paid: Money;
  after: Money;
  /** What was open at the end, by age; nothing for one buyer alone: payments are everybody's. */
  ages: ByAge | null;
  /** What each buyer charged, where there are several. */
  buyers: { name: string; charged: Money }[];
}

/**
 * The statement of an account for some days.
 * @param items all up to the last day, in the order in which they came
 * @param open what was open at the end of the last day
 * @param from, to calendar days, both included
 */
export function statementOf(
  items: readonly StatementItem[],
  open: readonly OpenItem[],
  { from, to, buyer = null }: { from: string; to: string; buyer?: string | null },
): Statement {
  const mine = items.filter(({ day }) => day <= to);
  const before = buyer === null ? sum(mine.filter(({ day }) => day < from).map(({ amount }) => amount)) : 0;
  let running = before;
  const rows = mine
    .filter((item) => item.day >= from && (buyer === null || item.buyer === buyer))
    .map((item) => ({ ...item, running: (running += item.amount) }));
  const charged = sum(rows.filter(({ amount }) => amount > 0).map(({ amount }) => amount));
  const names = [...new Set(rows.flatMap((row) => row.buyer ?? []))];
  return {
    before,
    rows,
    charged,
    paid: 0 - sum(rows.filter(({ amount }) => amount < 0).map(({ amount }) => amount)),
    after: running,
    ages: buyer === null ? byAge(open, to) : null,
    buyers: names.map((name) => ({
      name,
      charged: sum(
        rows.filter((row) => row.buyer === name && row.kind !== 'payment').map(({ amount }) => amount),
      ),
    })),
  };
}
