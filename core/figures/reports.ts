/** How a column's number is written, and what may be done with it. */
export type ColumnKind = 'money' | 'count' | 'quantity' | 'percent' | 'days' | 'words';

export interface ReportColumn {
  key: string;
  words: string;
  kind: ColumnKind;
  /** Worked out of two others, in rows as in totals: `times × of ÷ per`. */
  ratio?: { of: string; per: string; times: number };
}

/** What its rows are, and how that is written and followed. */
export type RowKind =
  | 'day'
  | 'month'
  | 'weekday'
  | 'hour'
  | 'till'
  | 'place'
  | 'person'
  | 'category'
  | 'item'
  | 'supplier'
  | 'customer'
  | 'means'
  | 'rate'
  | 'shift'
  | 'account'
  | 'words';

export interface Report {
  title: string;
  /** What its figures say, in a sentence. */
  says: string;
  group: ReportGroup;
  rows: RowKind;
  /** What stands above the first column. */
  first: string;
  columns: readonly ReportColumn[];
  /** Which column it is sorted by until another is chosen; an empty one for the rows' own order. */
  sort: string;
  /** What it says at the end of the last day, whatever the first one is: it is put beside nothing. */
  asOf?: true;
  /** Which filters it has besides days, place and till. */
  filters?: readonly ('category' | 'supplier')[];
  /** Shows what goods cost: only to those who may see that. */
  costs?: true;
}

export const REPORT_GROUPS = {
  sales: 'Sales',
  goods: 'Goods and stock',
  money: 'Money and tax',
  after: 'Reductions and what was undone',
  owed: 'What is owed and waits',
} as const;
export type ReportGroup = keyof typeof REPORT_GROUPS;

const column = (key: string, words: string, kind: ColumnKind): ReportColumn => ({ key, words, kind });
const PERCENT = 1000;
const part = (key: string, words: string, of: string, per: string): ReportColumn => ({
  key,
  words,
  kind: 'percent',
  ratio: { of, per, times: PERCENT },
});

const COST = [
  column('cost', 'Cost', 'money'),
  column('margin', 'Margin', 'money'),
  part('margin_part', 'Margin %', 'margin', 'sold'),
] as const;
const SALES: readonly ReportColumn[] = [
  column('count', 'Sales', 'count'),
  column('quantity', 'Units', 'quantity'),
  column('sold', 'Sold', 'money'),
  { key: 'average', words: 'Each sale', kind: 'money', ratio: { of: 'sold', per: 'count', times: 1 } },
  ...COST,
];
const OF_GOODS: readonly ReportColumn[] = [
  column('quantity', 'Units', 'quantity'),
  column('sold', 'Sold', 'money'),
  ...COST,
];
const GOODS_SOLD =
  'Goods sold less what came back, without tax, and what is left of that after what the goods cost';
const sales = (title: string, rows: RowKind, first: string, sort = ''): Report => ({
  title,
  says: `${GOODS_SOLD}.`,
  group: 'sales',
  rows,
  first,
  columns: SALES,
  sort,
});
const OFF: readonly ReportColumn[] = [
  column('count', 'Times', 'count'),
  column('off', 'Taken off', 'money'),
  column('sold', 'Earned all the same', 'money'),
];

/** All reports, by the last word of their address. */
export const REPORTS = {
  days: sales('Sales by day', 'day', 'Day'),
  months: sales('Sales by month', 'month', 'Month'),
  weekdays: sales('Sales by weekday', 'weekday', 'Weekday'),
  hours: sales('Sales by hour', 'hour', 'Hour'),
  places: sales('Sales by place', 'place', 'Place', 'sold'),
  tills: sales('Sales by till', 'till', 'Till', 'sold'),
  people: sales('Sales by person', 'person', 'Person', 'sold'),
  customers: {
    ...sales('Sales to customers', 'customer', 'Customer', 'sold'),
    says: `${GOODS_SOLD}, by customer.`,
  },
  'kinds-of-customers': {
    ...sales('Known and new customers', 'words', 'Customers', 'sold'),
    says: `${GOODS_SOLD}. New is who was not known a day before.`,
  },
  groups: {
    ...sales('Sales by group of customers', 'words', 'Group', 'sold'),
    says: `${GOODS_SOLD}. Who is in several groups counts in each; the groups are those of now.`,
  },
  items: {
    title: 'Items',
    says: `${GOODS_SOLD}, by item.`,
    group: 'goods',
    rows: 'item',
    first: 'Item',
    columns: OF_GOODS,
    sort: 'sold',
    filters: ['category', 'supplier'],
  },
  categories: {
    title: 'Categories',
    says: `${GOODS_SOLD}, by the category that they had then.`,
    group: 'goods',
    rows: 'category',
    first: 'Category',
    columns: OF_GOODS,
    sort: 'sold',
  },
  suppliers: {
    title: 'Suppliers',
    says: `${GOODS_SOLD}, by the supplier whom the item usually comes from now.`,
    group: 'goods',
    rows: 'supplier',
    first: 'Supplier',
    columns: OF_GOODS,
    sort: 'sold',
  },
  stock: {
    title: 'Stock by item',
    says: 'What lay there at the end of the last day, by what its layers cost; what it would bring at today’s prices without tax; and how long it lasts at the pace of the days.',
    group: 'goods',
    rows: 'item',
    first: 'Item',
    columns: [
      column('quantity', 'In stock', 'quantity'),
      column('value', 'Worth', 'money'),
      column('retail', 'Would bring', 'money'),
      column('earned', 'Would earn', 'money'),
      column('gone', 'Sold in the days', 'quantity'),
      { key: 'turns', words: 'Sold %', kind: 'percent', ratio: { of: 'gone', per: 'had', times: PERCENT } },
      { key: 'cover', words: 'Lasts', kind: 'days', ratio: { of: 'lasting', per: 'gone', times: 1 } },
    ],
    sort: 'value',
    asOf: true,
    filters: ['category', 'supplier'],
    costs: true,
  },
  'stock-categories': {
    title: 'Stock by category',
    says: 'The same side by side for categories, and how often a year stock is sold anew at the pace of the days, by what it costs.',
    group: 'goods',
    rows: 'category',
    first: 'Category',
    columns: [
      column('value', 'Worth', 'money'),
      column('retail', 'Would bring', 'money'),
      column('earned', 'Would earn', 'money'),
      part('earned_part', 'Margin %', 'earned', 'retail'),
      column('cost', 'Cost of what was sold', 'money'),
      {
        key: 'turns',
        words: 'Turns a year %',
        kind: 'percent',
        ratio: { of: 'yearly', per: 'value', times: PERCENT },
      },
    ],
    sort: 'value',
    asOf: true,
    costs: true,
  },
  'not-sold': {
    title: 'Not sold',
    says: 'Goods that lay there at the end of the last day and of which none was sold in the days; how long it is since one was, or since they came.',
    group: 'goods',
    rows: 'item',
    first: 'Item',
    columns: [
      column('quantity', 'In stock', 'quantity'),
      column('value', 'Worth', 'money'),
      column('since', 'Days since', 'days'),
    ],
    sort: 'value',
    asOf: true,
    filters: ['category', 'supplier'],
    costs: true,
  },
  'sell-through': {
    title: 'Sold of what came',
    says: 'What was delivered in the days, and how much of that item was sold since.',
    group: 'goods',
    rows: 'item',
    first: 'Item',
    columns: [
      column('came', 'Came', 'quantity'),
      column('gone', 'Sold', 'quantity'),
      part('part', 'Sold %', 'gone', 'came'),
    ],
    sort: 'came',
    filters: ['category', 'supplier'],
  },
  shrinkage: {
    title: 'Shrinkage',
    says: 'Goods that broke, went missing, were found or used by the shop, at what they cost. Above zero is a loss.',
    group: 'goods',
    rows: 'item',
    first: 'Item',
    columns: [column('quantity', 'Units', 'quantity'), column('lost', 'Lost', 'money')],
    sort: 'lost',
    filters: ['category', 'supplier'],
    costs: true,
  },
  means: {
    title: 'Means of payment',
    says: 'What sales were paid with, with their tax, less what was refunded; tips come on top.',
    group: 'money',
    rows: 'means',
    first: 'Means of payment',
    columns: [
      column('count', 'Payments', 'count'),
      column('paid', 'Paid', 'money'),
      column('tips', 'Tips', 'money'),
    ],
    sort: 'paid',
  },
  taxes: {
    title: 'Tax',
    says: 'Tax by rate, less what was given back, and the sales that it was asked on.',
    group: 'money',
    rows: 'rate',
    first: 'Rate',
    columns: [
      column('count', 'Sales', 'count'),
      column('base', 'Sold', 'money'),
      column('tax', 'Tax', 'money'),
    ],
    sort: '',
  },
  exempt: {
    title: 'Sold without tax',
    says: 'Sales that were exempt, by their reason.',
    group: 'money',
    rows: 'words',
    first: 'Reason',
    columns: [column('count', 'Sales', 'count'), column('sold', 'Sold', 'money')],
    sort: 'sold',
  },
  donations: {
    title: 'Donations',
    says: 'What customers gave by rounding up, to be handed on.',
    group: 'money',
    rows: 'words',
    first: 'Fund',
    columns: [column('count', 'Donations', 'count'), column('given', 'Given', 'money')],
    sort: 'given',
  },
  'gift-cards-sold': {
    title: 'Gift cards sold',
    says: 'Gift cards and certificates that were sold or charged: no sale until they are used.',
    group: 'money',
    rows: 'words',
    first: 'Kind',
    columns: [column('count', 'How many', 'count'), column('sold', 'Sold', 'money')],
    sort: 'sold',
  },
  'over-short': {
    title: 'Over and short',
    says: 'What was counted at the end of a shift against what was expected, and what was explained since. Below zero is short.',
    group: 'money',
    rows: 'shift',
    first: 'Shift',
    columns: [
      column('expected', 'Expected', 'money'),
      column('counted', 'Counted', 'money'),
      column('variance', 'Difference', 'money'),
      column('explained', 'Explained since', 'money'),
    ],
    sort: '',
  },
  discounts: {
    title: 'Offers and discounts',
    says: 'What was taken off and why, and what those goods brought all the same, without tax.',
    group: 'after',
    rows: 'words',
    first: 'Reason',
    columns: OFF,
    sort: 'off',
  },
  'discounts-by-person': {
    title: 'Discounts by person',
    says: 'Discounts and prices that were typed, and what those goods brought all the same, without tax.',
    group: 'after',
    rows: 'person',
    first: 'Person',
    columns: OFF,
    sort: 'off',
  },
  returns: {
    title: 'Returns',
    says: 'Goods that came back by reason: what was refunded without tax, and what they had cost.',
    group: 'after',
    rows: 'words',
    first: 'Reason',
    columns: [
      column('count', 'Lines', 'count'),
      column('quantity', 'Units', 'quantity'),
      column('refunded', 'Refunded', 'money'),
      column('cost', 'Cost', 'money'),
    ],
    sort: 'refunded',
  },
  voids: {
    title: 'Voids',
    says: 'Sales that were undone in their shift, by who undid them. They are in no other figure.',
    group: 'after',
    rows: 'person',
    first: 'Person',
    columns: [column('count', 'Sales', 'count'), column('total', 'Undone', 'money')],
    sort: 'total',
  },
  openings: {
    title: 'Drawer opened without a sale',
    says: 'By reason.',
    group: 'after',
    rows: 'words',
    first: 'Reason',
    columns: [column('count', 'Times', 'count')],
    sort: 'count',
  },
  'gift-cards': {
    title: 'Gift cards and credit outstanding',
    says: 'What the shop owes on gift cards, certificates and store credit at the end of the last day.',
    group: 'owed',
    rows: 'words',
    first: 'Kind',
    columns: [column('count', 'How many', 'count'), column('owed', 'Owed', 'money')],
    sort: 'owed',
    asOf: true,
  },
  deposits: {
    title: 'Deposits held',
    says: 'What customers have paid for goods that still wait at the end of the last day, by how long ago they were promised.',
    group: 'owed',
    rows: 'words',
    first: 'Age',
    columns: [column('count', 'Promises', 'count'), column('held', 'Held', 'money')],
    sort: '',
    asOf: true,
  },
  accounts: {
    title: 'House accounts by age',
    says: 'What customers owe now, by how long it is overdue; what is over on an account counts as not due.',
    group: 'owed',
    rows: 'account',
    first: 'Account',
    columns: [
      column('not_due', 'Not due', 'money'),
      column('late_30', 'Until 30 days late', 'money'),
      column('late_60', 'Until 60', 'money'),
      column('late_more', 'Longer', 'money'),
      column('owed', 'Together', 'money'),
    ],
    sort: 'owed',
    asOf: true,
  },
  points: {
    title: 'Points outstanding',
    says: 'Points of customers at the end of the last day, and what the shop expects them to cost.',
    group: 'owed',
    rows: 'customer',
    first: 'Customer',
    columns: [column('points', 'Points', 'count'), column('worth', 'Expected cost', 'money')],
    sort: 'points',
    asOf: true,
  },
  orders: {
    title: 'Layaways, orders and relays',
    says: 'What was promised in the days, by kind and what became of it.',
    group: 'owed',
    rows: 'words',
    first: 'Kind',
    columns: [
      column('count', 'How many', 'count'),
      column('total', 'Promised', 'money'),
      column('open', 'Still open', 'count'),
      column('held', 'Deposits held', 'money'),
    ],
    sort: 'total',
  },
} as const satisfies Readonly<Record<string, Report>>;

export type ReportName = keyof typeof REPORTS;
export const REPORT_NAMES = Object.keys(REPORTS) as ReportName[];
/** @throws nothing: every name has a report */
export const reportOf = (name: ReportName): Report => REPORTS[name];

/** The columns of a report for somebody. @param costs whether they see what goods cost */
export const columnsFor = (
  report: Report,
  costs: boolean,
  without: readonly string[] = [],
): readonly ReportColumn[] =>
  report.columns.filter(
    ({ key }) => !without.includes(key) && (costs || !['cost', 'margin', 'margin_part'].includes(key)),
  );

export type Figures = Readonly<Record<string, number | null>>;

/** A column's number of a row, or of the totals; nothing where it cannot be said. */
export function valueOf({ key, ratio }: ReportColumn, figures: Figures): number | null {
  if (!ratio) return figures[key] ?? null;
  const [of, per] = [figures[ratio.of] ?? null, figures[ratio.per] ?? null];
  return of === null || !per ? null : Math.round((ratio.times * of) / per);
}

/** How much more a number is than before, per mille; nothing where there was none. */
export const changeOf = (now: number | null, before: number | null): number | null =>
  now === null || !before ? null : Math.round(((now - before) * PERCENT) / Math.abs(before));
