import type { DirectoryQuery } from '../../contract/people.ts';
import { cellsOf, listColumns } from '../../core/people/columns.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { csv, type CsvCell } from '../csv.ts';
import type { Database } from '../db/database.ts';
import { readShop } from '../shop/store.ts';
import { sinceOf } from './directory.ts';
import { directoryIds, directoryRows, mostAddresses } from './directoryStore.ts';
import { activeCards } from './store.ts';
import { readRecords } from './recordStore.ts';

const PART = 500;
/** What stands in the list besides what can be imported again. */
const MORE = ['Points', 'Owes', 'Store credit', 'Last visit'] as const;

/** A list with headings only, to be filled in. */
export const emptyList = (): string =>
  csv(
    listColumns(1).map(({ heading }) => heading),
    [],
    { digits: 2, timezone: 'UTC' },
  );

/** The customers that a question asks for as comma-separated values, piece by piece; it can be imported again. */
export async function* customerList(database: Database, query: DirectoryQuery): AsyncGenerator<string> {
  const { shop, ids } = await database.ask(async (sql) => ({
    shop: await readShop(sql),
    ids: await directoryIds(sql, query, await sinceOf(sql, query)),
  }));
  const most = await database.ask(async (sql) => mostAddresses(sql));
  const columns = listColumns(most);
  const place = { digits: currencyOf(shop.currency).digits, timezone: shop.timezone };
  yield csv([...columns.map(({ heading }) => heading), ...MORE], [], place);
  for (let at = 0; at < ids.length; at += PART) {
    const some = ids.slice(at, at + PART);
    const rows = await database.ask(async (sql): Promise<CsvCell[][]> => {
      const records = new Map((await readRecords(sql, some)).map(({ id, record }) => [id, record]));
      const cards = await activeCards(sql, some);
      return (await directoryRows(sql, some)).flatMap((row) => {
        const record = records.get(row.id);
        if (!record) return [];
        const cells = cellsOf({ number: row.id, record, cards: cards.get(row.id) ?? [] });
        return [
          [
            ...columns.map(({ column }) => cells[column] ?? ''),
            row.points,
            { amount: row.owes },
            { amount: row.credit },
            row.seenAt ? { at: new Date(row.seenAt).toISOString() } : '',
          ],
        ];
      });
    });
    // The headings went out first.
    yield csv([], rows, place).replace(/^\r\n/, '');
  }
}
