import type { CustomerPage, WantedRecord } from '../../contract/people.ts';
import { balanced, type LedgerEntry } from '../../core/books/entries.ts';
import type { Writer } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { balanceOf, postEvent } from '../books/store.ts';
import { moveAccount } from './accounts.ts';
import * as store from './mergingStore.ts';
import { tillsWith } from './openStore.ts';
import { customerPage, putRecord, takeRecord } from './records.ts';
import { lockRecords } from './recordStore.ts';

/** What customers owe, and what is owed to them: it goes along by counter-entries. */
const ACCOUNTS = ['receivable', 'store-credit'] as const;

/**
 * Makes two records one. What was written stays as it was written and is found under the record that stays; points,
 * what is owed and credit go there by counter-entries, cards and what waits at once.
 * @throws Problem 404, 409 when either was changed meanwhile, or the other one is on a basket just now
 */
export async function mergeRecords(
  sql: Writer,
  stays: number,
  wanted: { goes: number; record: WantedRecord; version: number; goesVersion: number },
  by: { staffId: number; at: Date },
): Promise<CustomerPage> {
  const { goes, record } = wanted;
  if (goes === stays) throw new Problem('refused', 'This is one record already.');
  await lockRecords(sql, [stays, goes]);
  const before = await takeRecord(sql, stays, wanted.version);
  const other = await takeRecord(sql, goes, wanted.goesVersion);
  const [till] = await tillsWith(sql, goes);
  if (till !== undefined) {
    throw new Problem('refused', `${other.record.name} is on the basket at till ${till}.`, {
      detail: 'Finish that sale, or take the customer off it; then merge them.',
    });
  }

  const { name, phone, mail } = other.record;
  const merged = {
    what: 'Merged',
    was: '',
    became: [`${name} (${goes})`, phone, mail].filter(Boolean).join(', '),
  };
  await putRecord(sql, before, record, by, [merged]);
  await moveBalances(sql, goes, stays, by);
  await moveAccount(sql, goes, stays, by.at);
  await store.movePoints(sql, goes, stays, by.at);
  await store.moveBelongings(sql, goes, stays);
  await store.markMerged(sql, goes, stays);
  return customerPage(sql, stays, by.at);
}

async function moveBalances(
  sql: Writer,
  goes: number,
  stays: number,
  { staffId, at }: { staffId: number; at: Date },
): Promise<void> {
  const entries: LedgerEntry[] = [];
  for (const account of ACCOUNTS) {
    const amount = await balanceOf(sql, account, `customer:${goes}`);
    entries.push(
      { account, subject: `customer:${goes}`, amount: 0 - amount },
      { account, subject: `customer:${stays}`, amount },
    );
  }
  const moved = balanced(entries);
  if (moved.length > 0) await postEvent(sql, { kind: 'merge', at, staffId, entries: moved });
}
