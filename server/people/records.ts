import { DateTime } from 'luxon';
import type { CustomerPage, WantedRecord } from '../../contract/people.ts';
import { recordChanges, ruleWords } from '../../core/people/record.ts';
import type { RecordChange } from '../../core/recordChange.ts';
import { formatMoney } from '../../core/money.ts';
import type { Reader, Writer } from '../db/database.ts';
import { formChangedMeanwhile } from '../http/problem.ts';
import { cardsOnFile } from './cardOnFileStore.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { readShop, shopToday } from '../shop/store.ts';
import { groupsInUse } from './directoryStore.ts';
import { listGroups } from './groupStore.ts';
import { movesOf } from './loyaltyStore.ts';
import { noCustomer } from './noCustomer.ts';
import { whatIsOpen } from './openMatters.ts';
import * as store from './recordStore.ts';
import { readCustomer } from './service.ts';

/** Months that the chart of visits shows. */
const MONTHS = 12;

/**
 * Everything that the page of a customer shows; of one who was merged, that of the record that stays. @throws Problem
 * 404
 */
export async function customerPage(sql: Reader, asked: number, at: Date): Promise<CustomerPage> {
  const panel = await readCustomer(sql, asked, at);
  const { id } = panel;
  const [stored] = await store.readRecords(sql, [id]);
  if (!stored) throw noCustomer();
  const shop = await readShop(sql);
  const { digits } = currencyOf(shop.currency);
  const today = await shopToday(sql, at);
  const since =
    DateTime.fromISO(today)
      .minus({ months: MONTHS - 1 })
      .toISODate() ?? today;
  const rules = new Map((await groupsInUse(sql)).map(({ name, rule }) => [name, rule]));
  const iso = (time: string | null) => time && new Date(time).toISOString();
  return {
    panel,
    record: stored.record,
    version: stored.version,
    byRule: stored.byRule.map((name) => {
      const rule = rules.get(name);
      return { name, why: rule ? ruleWords(rule, (amount) => formatMoney(amount, digits)) : '' };
    }),
    cards: (await store.cardsOf(sql, id)).map((card) => ({
      ...card,
      addedAt: iso(card.addedAt),
      stoppedAt: iso(card.stoppedAt),
    })),
    moves: (await movesOf(sql, id)).map((move) => ({ ...move, at: iso(move.at) ?? '' })),
    values: await store.valuesOf(sql, id),
    onFile: await cardsOnFile(sql, id),
    months: await store.monthsOf(sql, id, since),
    changes: (await store.changesOf(sql, id)).map((change) => ({ ...change, at: iso(change.at) ?? '' })),
    addedAt: iso(stored.addedAt) ?? '',
    seenAt: iso(stored.seenAt),
    mergedFrom: await store.mergedFrom(sql, id),
    open: await whatIsOpen(sql, id, digits),
  };
}

/**
 * A record that is to be changed, held until that is done. @throws Problem 404, 409 when somebody changed it
 * meanwhile
 */
export async function takeRecord(sql: Writer, id: number, version: number): Promise<store.StoredRecord> {
  await store.lockRecords(sql, [id]);
  const [stored] = await store.readRecords(sql, [id]);
  if (!stored) throw noCustomer();
  if (stored.version !== version) {
    throw formChangedMeanwhile(`${stored.record.name} was changed by somebody else meanwhile.`);
  }
  return stored;
}

/** Writes a record that was taken, and keeps what changes about it, with what else there is to say. */
export async function putRecord(
  sql: Writer,
  { id, record: before }: store.StoredRecord,
  record: WantedRecord,
  by: { staffId: number; at: Date },
  more: readonly RecordChange[] = [],
): Promise<void> {
  const byHand = (await listGroups(sql)).filter(({ fillsItself }) => !fillsItself);
  const known = new Set(byHand.map(({ name }) => name));
  const groups = record.groups.filter((name) => known.has(name)).toSorted();
  const after = { ...record, groups, tags: record.tags.toSorted() };
  const changes = [...more, ...recordChanges(before, after)];
  await store.putRecords(sql, [{ id, record: after, cards: [], changes }], by);
}

/**
 * Changes what is known of a customer, and keeps who did. @throws Problem 404, 409 when somebody else changed it
 * meanwhile
 */
export async function changeRecord(
  sql: Writer,
  id: number,
  { record, version }: { record: WantedRecord; version: number },
  by: { staffId: number; at: Date },
): Promise<CustomerPage> {
  const before = await takeRecord(sql, id, version);
  const tidy = { ...record, tags: [...new Set(record.tags)], newsOn: record.news ? record.newsOn : '' };
  await putRecord(sql, before, tidy, by);
  return customerPage(sql, id, by.at);
}
