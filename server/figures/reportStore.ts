import type { Choices, ReportQuery } from '../../contract/figures.ts';
import { comparedWith, type Period } from '../../core/figures/period.ts';
import {
  reportOf,
  type Figures,
  type Report,
  type ReportColumn,
  type ReportName,
} from '../../core/figures/reports.ts';
import { MOST_SALES, piecesOf } from '../books/piecesStore.ts';
import { asking } from '../db/asked.ts';
import { one, type Reader } from '../db/database.ts';
import { says } from '../db/words.ts';
import { businessDays, type ShopClock } from './shopDays.ts';
import { REPORT_SQL, type Asked, type FromLines, type Sold } from './reportSql.ts';

/** The figures that a report's statement gives: its columns, and what ratios are worked out of. */
const numbersOf = ({ columns }: Report): string[] => [
  ...new Set(columns.flatMap(({ key, ratio }: ReportColumn) => (ratio ? [ratio.of, ratio.per] : [key]))),
];

function sortedBy(report: Report, sort: string): string {
  const wanted = sort.replace('-', '');
  const column = report.columns.find(({ key }) => key === wanted);
  if (wanted === 'name') return sort === 'name' ? 'lower(name), key' : 'lower(name) desc, key';
  if (!column) return 'length(key), key';
  const value = column.ratio
    ? `now_${column.ratio.of}::numeric / nullif(now_${column.ratio.per}, 0)`
    : `now_${column.key}`;
  return `${value} ${sort.startsWith('-') ? 'asc' : 'desc'} nulls last, lower(name), key`;
}

export interface FoundReport {
  rows: { key: string; name: string; more: string; now: Figures; before: Figures | null }[];
  count: number;
  totals: { now: Figures; before: Figures | null };
  beside: Period | null;
}

/** All of the shop on some days, beside nothing. */
export const wholeShop = ({ from, to }: Period): ReportQuery => ({
  from,
  to,
  compare: 'none',
  place: 0,
  till: 0,
  category: 0,
  supplier: 0,
  find: '',
  sort: '',
  without: '',
  page: 0,
});

/** Adds up what lines come to; others have their turn between two pieces. */
async function soldInPieces(
  sql: Reader,
  lines: FromLines['lines'],
  asked: Asked,
  atOnce: number,
): Promise<Sold[]> {
  const all = new Map<number, Sold>();
  for (const piece of await piecesOf(sql, asked, atOnce)) {
    const { given, ask } = asking();
    const statement = lines({ ...asked, ...piece }, ask);
    // A day's lines are found one by one, those of a month all at once.
    for (const row of await sql.search<Sold>(statement, given)) {
      const sum = all.get(row.id);
      if (!sum) all.set(row.id, row);
      else for (const of of ['count', 'quantity', 'sold', 'cost'] as const) sum[of] += row[of];
    }
  }
  return [...all.values()];
}

/**
 * The rows of a report, or so many of them, with the totals of all that fit.
 * @param atOnce so many sales are read in one statement
 */
export async function findReport(
  sql: Reader,
  name: ReportName,
  query: ReportQuery,
  clock: ShopClock,
  part: { most: number; offset: number } | null,
  atOnce = MOST_SALES,
): Promise<FoundReport> {
  const report = reportOf(name);
  const numbers = numbersOf(report);
  const { given, ask } = asking();
  const made = REPORT_SQL[name];
  const statement = async (period: Period) => {
    const asked = { ...query, ...period, ...businessDays(period, clock) };
    return 'lines' in made
      ? made.report({ ...asked, sold: await soldInPieces(sql, made.lines, asked, atOnce) }, ask)
      : made(asked, ask);
  };
  const beside = report.asOf ? null : comparedWith(query, query.compare);
  const now = await statement(query);
  const cast = (table: string, prefix: string) =>
    numbers.map((key) => `${table}.${key}::bigint as ${prefix}_${key}`).join(', ');
  const joined = beside
    ? `select coalesce(now.key, before.key) as key, coalesce(now.name, before.name) as name,
      coalesce(now.more, before.more) as more,
         ${cast('now', 'now')}, ${cast('before', 'before')}
       from (${now}) as now full join (${await statement(beside)}) as before using (key)`
    : `select key, name, more, ${cast('now', 'now')} from (${now}) as now`;
  const columns = [
    ...numbers.map((key) => `now_${key}`),
    ...(beside ? numbers.map((key) => `before_${key}`) : []),
  ];
  const found = query.find ? `where ${says("(name || ' ' || more)", query.find, ask)}` : '';
  const searching = 'kept' in made ? sql.query : sql.search;
  const rows = await searching<Record<string, number | null> & { key: string; name: string; more: string }>(
    `with fitting as materialized (select * from (${joined}) as joined ${found})
     select * from (
       select false as whole, fitting.*, null::bigint as counted from fitting
       order by ${sortedBy(report, query.sort || report.sort)} ${part ? `limit ${part.most} offset ${part.offset}` : ''}) as page
     union all
     select true, '', '', '', ${columns.map((column) => `sum(${column})::bigint`).join(', ')}, count(*) from fitting`,
    given,
  );
  const figures = (row: Record<string, number | string | null>, prefix: string): Figures =>
    Object.fromEntries(numbers.map((key) => [key, Number(row[`${prefix}_${key}`] ?? 0)]));
  const totals = one(rows.slice(-1));
  return {
    rows: rows.slice(0, -1).map((row) => ({
      key: row.key,
      name: row.name,
      more: row.more,
      now: figures(row, 'now'),
      before: beside && figures(row, 'before'),
    })),
    count: totals.counted ?? 0,
    totals: { now: figures(totals, 'now'), before: beside && figures(totals, 'before') },
    beside,
  };
}

/** What the reports can be narrowed to. */
export async function choices(sql: Reader): Promise<Choices> {
  return {
    places: await sql.query<{ id: number; name: string }>('select id, name from place order by id'),
    tills: await sql.query<{ id: number; number: number; placeId: number }>(
      'select id, number, place_id as "placeId" from till order by number',
    ),
    categories: await sql.query<{ id: number; name: string }>('select id, name from category order by name'),
    suppliers: await sql.query<{ id: number; name: string }>('select id, name from supplier order by name'),
  };
}
