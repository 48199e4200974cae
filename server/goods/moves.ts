import { DateTime } from 'luxon';
import {
  MOST_MOVES,
  MOVES_PAGE,
  type StockMovesPage,
  type StockMovesQuery,
} from '../../contract/stockMoves.ts';
import { REASON_WORDS } from '../../core/goods/stockReasons.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { iso } from '../clock.ts';
import { csv } from '../csv.ts';
import type { Database, Reader } from '../db/database.ts';
import { listPlaces, readShop } from '../shop/store.ts';
import { listStaff } from '../staff/store.ts';
import { countMoves, findMoves, suppliersByName, type AskedMoves } from './movesStore.ts';

/** The days of the shop's clock, as points in time. */
function askedMoves({ from, to, ...query }: StockMovesQuery, timezone: string): AskedMoves {
  const begin = (day: string, after: number) =>
    day === '' ? null : DateTime.fromISO(day, { zone: timezone }).plus({ days: after }).toUTC().toISO();
  return { ...query, since: begin(from, 0), until: begin(to, 1) };
}

/** How stock moved: a page of what is asked for. @param costs whether whoever asks sees what goods cost */
export async function movesPage(
  sql: Reader,
  query: StockMovesQuery,
  costs: boolean,
): Promise<StockMovesPage> {
  const { timezone } = await readShop(sql);
  const asked = askedMoves(query, timezone);
  const rows = await findMoves(sql, asked, { most: MOVES_PAGE, offset: query.page * MOVES_PAGE });
  const named = <T extends { id: number; name: string }>(all: readonly T[]) =>
    all.map(({ id, name }) => ({ id, name }));
  return {
    rows: rows.map((row) => ({ ...row, at: iso(row.at), cost: costs ? row.cost : null })),
    count: await countMoves(sql, asked),
    places: named(await listPlaces(sql)),
    suppliers: await suppliersByName(sql),
    staff: named(await listStaff(sql)),
  };
}

const HEADINGS = [
  'Time',
  'Place',
  'Number',
  'Name',
  'Quantity',
  'Unit',
  'Reason',
  'Words',
  'By',
  'Approved by',
  'Cost',
  'Receipt',
];
const PART = 1_000;

/** All moves that are asked for, as far as they are counted, as comma-separated values, piece by piece. */
export async function* movesCsv(
  database: Database,
  query: StockMovesQuery,
  costs: boolean,
): AsyncGenerator<string> {
  const shop = await database.ask(readShop);
  const written = { digits: currencyOf(shop.currency).digits, timezone: shop.timezone };
  const asked = askedMoves(query, shop.timezone);
  yield csv(HEADINGS, [], written);
  for (let offset = 0; offset < MOST_MOVES; offset += PART) {
    const rows = await database.ask((sql) => findMoves(sql, asked, { most: PART, offset }));
    const cells = rows.map((row) => [
      { at: iso(row.at) },
      row.place,
      row.number,
      row.name,
      formatQuantity(row.quantity),
      row.unit,
      REASON_WORDS[row.reason],
      row.words,
      row.by,
      row.approvedBy,
      costs && row.cost !== null ? { amount: row.cost } : '',
      row.origin?.kind === 'sale' ? row.origin.number : '',
    ]);
    // The headings went out first.
    if (cells.length > 0) yield csv([], cells, written).replace(/^\r\n/, '');
    if (rows.length < PART) return;
  }
}
