import type { ShiftHistory, ShiftRow } from '../../contract/drawer.ts';
import type { Paper } from '../../core/journal/paper.ts';
import { csv, type CsvCell } from '../csv.ts';
import { formatCount, formatDay } from '../../core/locale.ts';
import { formatMoney, sum } from '../../core/money.ts';
import { addTaxes, type TaxAmount } from '../../core/pricing/tax.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { varianceWords } from '../../core/drawer/shiftReport.ts';
import { iso, shopTime } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import { tablePdf } from '../pdf.ts';
import { readShop } from '../shop/store.ts';
import { closedShifts, movesOfShifts, type ClosedRow, type ShiftFilter } from './historyStore.ts';
import type { Closing } from './store.ts';

/** Closed shifts, newest first, with what they come to together. */
export async function shiftHistory(sql: Reader, filter: ShiftFilter): Promise<ShiftHistory> {
  const { timezone } = await readShop(sql);
  const rows: ShiftRow[] = [];
  let taxes: TaxAmount[] = [];
  let tenders: ShiftHistory['tenders'] = [];
  let reductions: ShiftHistory['reductions'] = [];
  for await (const shifts of closedShifts(sql, filter, timezone)) {
    const closings = shifts.map(({ closing }) => closing);
    rows.push(...shifts.map(rowOf));
    taxes = addTaxes([...taxes, ...closings.flatMap((closing) => closing.taxes)]);
    tenders = together(
      [...tenders, ...closings.flatMap((closing) => closing.paidWith ?? cashOnly(closing))],
      ({ name, count, amount }) => ({ name, count, amount }),
    );
    reductions = together(
      [...reductions, ...closings.flatMap((closing) => closing.reductions)],
      ({ kind, reason, person, count, amount }) => ({ kind, reason, person, count, amount }),
    );
  }
  const total = (key: keyof ShiftHistory['sums']) => sum(rows.map((row) => row[key]));
  return {
    rows,
    sums: {
      sales: total('sales'),
      taken: total('taken'),
      refunded: total('refunded'),
      voids: total('voids'),
      discounts: total('discounts'),
      openings: total('openings'),
      variance: total('variance'),
      banked: total('banked'),
    },
    taxes: taxes.map(({ name, rate, base, tax }) => ({ name, rate, base, tax })),
    tenders,
    reductions,
    moves: await movesOfShifts(
      sql,
      rows.map(({ id }) => id),
    ),
  };
}

/** Shifts from before other tenders were kept took cash only. */
const cashOnly = ({ sales }: Closing) => [{ name: 'Cash', count: sales.count, amount: sales.total }];

/** Those that are alike but for their count and amount, added up, in the order in which the first of each comes. */
function together<One extends { count: number; amount: number }>(
  all: readonly One[],
  of: (one: One) => One,
): One[] {
  const sums = new Map<string, One>();
  for (const one of all.map(of)) {
    const key = JSON.stringify({ ...one, count: 0, amount: 0 });
    const known = sums.get(key);
    if (known) Object.assign(known, { count: known.count + one.count, amount: known.amount + one.amount });
    else sums.set(key, one);
  }
  return [...sums.values()];
}

function rowOf({ id, number, till, openedAt, closedAt, closedBy, closing, explained }: ClosedRow): ShiftRow {
  return {
    id,
    number,
    till,
    openedAt: iso(openedAt),
    closedAt: iso(closedAt),
    closedBy,
    sales: closing.sales.count,
    taken: closing.sales.total,
    refunded: closing.undone?.refunded ?? 0,
    voids: closing.undone?.voids ?? 0,
    discounts: sum(closing.reductions.map(({ amount }) => amount)),
    openings: closing.openings,
    expected: closing.expected,
    counted: closing.counted,
    variance: closing.variance,
    explained,
    banked: closing.plan.banked,
  };
}

/** The history as comma-separated values. */
export async function historyCsv(sql: Reader, filter: ShiftFilter): Promise<string> {
  const { rows } = await shiftHistory(sql, filter);
  const { currency, timezone } = await readShop(sql);
  const { digits } = currencyOf(currency);
  return csv(
    [
      'till',
      'shift',
      'opened',
      'closed',
      'closed by',
      'sales',
      'taken',
      'refunded',
      'voids',
      'discounts',
      'opened without a sale',
      'expected',
      'counted',
      'over or short',
      'explained',
      'to the bank',
    ],
    rows.map((row): CsvCell[] => [
      row.till,
      row.number,
      { at: row.openedAt },
      { at: row.closedAt },
      row.closedBy,
      row.sales,
      { amount: row.taken },
      { amount: row.refunded },
      row.voids,
      { amount: row.discounts },
      row.openings,
      { amount: row.expected },
      { amount: row.counted },
      { amount: row.variance },
      { amount: row.explained },
      { amount: row.banked },
    ]),
    { digits, timezone },
  );
}

/** On paper the newest ones are listed one by one; what all come to together stands there anyway. */
const MOST_ON_PAPER = 2000;
const leftOut = ({ length }: readonly ShiftRow[]): string | false =>
  length > MOST_ON_PAPER &&
  `the newest ${formatCount(MOST_ON_PAPER)} of ${formatCount(length)}, together all of them`;

/** The history as a table on sheets. */
export async function historyPdf(sql: Reader, filter: ShiftFilter): Promise<Buffer> {
  const { rows, sums } = await shiftHistory(sql, filter);
  const shop = await readShop(sql);
  const { digits } = currencyOf(shop.currency);
  const money = (amount: number) => formatMoney(amount, digits);
  const right = (text: string) => ({ text, right: true });
  return tablePdf({
    title: `${shop.name}: shifts`,
    subtitle: [
      filter.from && `from ${formatDay(filter.from)}`,
      filter.to && `to ${formatDay(filter.to)}`,
      leftOut(rows),
    ]
      .filter(Boolean)
      .join(' '),
    locale: shop.locale,
    headings: [
      right('Till'),
      right('Shift'),
      { text: 'Opened' },
      { text: 'Closed' },
      { text: 'By' },
      right('Sales'),
      right('Taken'),
      right('Refunded'),
      right('Voids'),
      right('Discounts'),
      right('Expected'),
      right('Counted'),
      right('Over, short'),
      right('Explained'),
      right('To the bank'),
    ],
    rows: rows
      .slice(0, MOST_ON_PAPER)
      .map((row) => [
        String(row.till),
        String(row.number),
        shopTime(row.openedAt, shop),
        shopTime(row.closedAt, shop),
        row.closedBy,
        String(row.sales),
        money(row.taken),
        money(row.refunded),
        String(row.voids),
        money(row.discounts),
        money(row.expected),
        money(row.counted),
        money(row.variance),
        money(row.explained),
        money(row.banked),
      ]),
    sums: [
      '',
      '',
      '',
      '',
      'Together',
      formatCount(sums.sales),
      money(sums.taken),
      money(sums.refunded),
      String(sums.voids),
      money(sums.discounts),
      '',
      '',
      money(sums.variance),
      money(sum(rows.map(({ explained }) => explained))),
      money(sums.banked),
    ],
  });
}

/** The history on paper. */
export async function historyPaper(sql: Reader, filter: ShiftFilter): Promise<Paper> {
  const { rows, sums, taxes, tenders, reductions } = await shiftHistory(sql, filter);
  const said = leftOut(rows);
  const shop = await readShop(sql);
  const { digits } = currencyOf(shop.currency);
  const money = (amount: number) => formatMoney(amount, digits);
  const pair = (left: string, right: string, strong = false) => ({
    kind: 'pair' as const,
    left,
    right,
    strong,
  });
  return {
    title: 'Shifts',
    rows: [
      { kind: 'title', text: shop.name },
      { kind: 'centre', text: `Shifts ${filter.from ?? ''} to ${filter.to ?? ''}` },
      { kind: 'rule' },
      pair('Shifts', formatCount(rows.length)),
      pair('Sales', String(sums.sales)),
      pair('Taken', money(sums.taken), true),
      pair('Refunded', money(0 - sums.refunded)),
      pair('Voids', String(sums.voids)),
      pair('Opened without a sale', String(sums.openings)),
      pair('Over and short', varianceWords(sums.variance, digits), true),
      pair('To the bank', money(sums.banked)),
      { kind: 'rule' },
      ...taxes.map(({ name, tax }) => pair(`Tax ${name}`, money(tax))),
      ...tenders.map(({ name, count, amount }) => pair(`${count} × ${name}`, money(amount))),
      ...reductions.map(({ reason, person, count, amount }) =>
        pair(`${count} × ${reason}, ${person}`, money(amount)),
      ),
      { kind: 'rule' },
      ...(said ? [{ kind: 'centre' as const, text: said }] : []),
      ...rows
        .slice(0, MOST_ON_PAPER)
        .flatMap((row) => [
          pair(`Till ${row.till}, shift ${row.number}`, money(row.taken), true),
          pair(
            `${shopTime(new Date(row.closedAt), shop)}, ${row.closedBy}`,
            varianceWords(row.variance, digits),
          ),
        ]),
    ],
  };
}
