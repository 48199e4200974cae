import type { Paper, PaperRow } from '../journal/paper.ts';
import { formatMoney, type Money } from '../money.ts';
import type { Currency } from '../payment/currency.ts';

/** What a day was like, for whoever was not there. */
export interface DaySummary {
  shop: string;
  /** As the shop writes it. */
  day: string;
  currency: Currency;
  sold: Money;
  /** A week before, the whole day; zero where nothing was sold. */
  before: Money;
  sales: number;
  returned: Money;
  means: readonly { name: string; amount: Money }[];
  places: readonly { name: string; sold: Money }[];
  best: readonly { name: string; amount: Money }[];
  variances: readonly { name: string; amount: Money }[];
  /** Sentences about what is far from what is usual. */
  odd: readonly string[];
}

/** The mail about a day, after the last drawer is closed. */
export function daySummary(day: DaySummary): Paper {
  const money = (amount: Money) => formatMoney(amount, day.currency.digits);
  const pair = (left: string, right: string, strong = false): PaperRow => ({
    kind: 'pair',
    left,
    right,
    strong,
  });
  const list = (title: string, rows: readonly PaperRow[]): PaperRow[] =>
    rows.length === 0 ? [] : [{ kind: 'rule' }, { kind: 'text', text: title }, ...rows];
  return {
    title: `The day: ${day.day}`,
    rows: [
      { kind: 'title', text: day.shop },
      { kind: 'centre', text: day.day },
      { kind: 'gap' },
      pair('Sold, without tax', money(day.sold), true),
      pair('A week before', money(day.before)),
      pair('Sales', String(day.sales)),
      pair('Each sale', day.sales === 0 ? '–' : money(Math.round(day.sold / day.sales))),
      pair('Came back', money(day.returned)),
      ...list(
        'By place',
        day.places.map(({ name, sold }) => pair(name, money(sold))),
      ),
      ...list(
        'Paid with',
        day.means.map(({ name, amount }) => pair(name, money(amount))),
      ),
      ...list(
        'Best items',
        day.best.map(({ name, amount }) => pair(name, money(amount))),
      ),
      ...list(
        'Over and short',
        day.variances.map(({ name, amount }) => pair(name, money(amount))),
      ),
      ...list(
        'Odd',
        day.odd.map((text) => ({ kind: 'text' as const, text })),
      ),
    ],
  };
}
