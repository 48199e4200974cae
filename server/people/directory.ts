import { DateTime } from 'luxon';
import type { DirectoryPage, DirectoryQuery } from '../../contract/people.ts';
import { DIRECTORY_PAGE } from '../../core/people/directory.ts';
import type { Reader } from '../db/database.ts';
import { readShop } from '../shop/store.ts';
import * as store from './directoryStore.ts';

/** When the day of a question begins where the shop is, ISO 8601; empty without one. */
export async function sinceOf(sql: Reader, { notSince }: DirectoryQuery): Promise<string> {
  if (!notSince) return '';
  const { timezone } = await readShop(sql);
  return DateTime.fromISO(notSince, { zone: timezone }).toUTC().toISO() ?? '';
}

/** One page of the customers that a question asks for. */
export async function directoryPage(sql: Reader, query: DirectoryQuery): Promise<DirectoryPage> {
  const since = await sinceOf(sql, query);
  const ids = await store.directoryIds(sql, query, since, DIRECTORY_PAGE);
  const rows = await store.directoryRows(sql, ids);
  return {
    rows: rows.map((row) => ({ ...row, seenAt: row.seenAt && new Date(row.seenAt).toISOString() })),
    count: await store.directoryCount(sql, query, since),
    tags: await store.tagsInUse(sql),
    groups: await store.groupsInUse(sql),
  };
}
