import { DateTime } from 'luxon';
import type { ItemPage, WantedItem } from '../../contract/goods.ts';
import { ownEan13, readBarcode } from '../../core/goods/barcode.ts';
import { itemChanges, itemProblems, type ItemNames } from '../../core/goods/itemRecord.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { businessDate } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';
import { formChangedMeanwhile, Problem } from '../http/problem.ts';
import { readShop, taxCategories } from '../shop/store.ts';
import * as pages from './pageStore.ts';
import * as store from './recordStore.ts';
import { addItems, categoryNamed, itemNumbered, PLAIN_ITEM } from './store.ts';

export const noItem = (): Problem => new Problem('no-item', 'There is no such item.');

export interface By {
  staffId: number;
  at: Date;
}

/** Months that the chart of what was sold shows. */
const MONTHS = 12;

/** Everything that the page of an item shows. @param placeId the place of the till @throws Problem 404 */
export async function itemPage(sql: Reader, id: number, placeId: number, at: Date): Promise<ItemPage> {
  const [stored] = await store.readItems(sql, [id]);
  const beside = await pages.besideRecord(sql, id, placeId);
  if (!stored || !beside) throw noItem();
  const { timezone } = await readShop(sql);
  const since = DateTime.fromISO(businessDate(at, timezone))
    .minus({ months: MONTHS - 1 })
    .toISODate();
  const { categories, units, tags, groups } = await store.wordsInUse(sql);
  const { kind, version, record, moved } = stored;
  const iso = (time: string) => new Date(time).toISOString();
  return {
    id,
    kind,
    version,
    record,
    moved,
    ...beside,
    addedAt: iso(beside.addedAt),
    prices: beside.prices.map((past) => ({ ...past, changedAt: iso(past.changedAt) })),
    moves: (await pages.movesOf(sql, id)).map((move) => ({ ...move, at: iso(move.at) })),
    months: await pages.monthsSold(sql, id, since ?? ''),
    changes: (await store.itemChangesOf(sql, id)).map((change) => ({ ...change, at: iso(change.at) })),
    categories: categories.map(({ name }) => name),
    units,
    tags,
    groups,
  };
}

/** How facts of items are said in the history of changes. */
export async function itemNames(sql: Reader): Promise<ItemNames> {
  const names = new Map((await taxCategories(sql)).map(({ id, name }) => [id, name]));
  const { currency } = await readShop(sql);
  return { digits: currencyOf(currency).digits, tax: (id) => names.get(id) ?? '' };
}

/** The spelling under which a code is kept: that of a barcode where it is one. */
export const spelled = (code: string): string => readBarcode(code)[0]?.canonical ?? code;

/** A record as it is kept: codes in their one spelling, each thing once. */
export const tidyItem = (record: WantedItem): WantedItem => ({
  ...record,
  number: record.number.toUpperCase(),
  codes: [...new Set(record.codes.map(spelled))].toSorted(),
  tags: [...new Set(record.tags)].toSorted(),
  groupPrices: record.groupPrices.toSorted((a, b) => (a.group < b.group ? -1 : 1)),
});

/**
 * A code of the shop's own that means nothing yet: of the first range for use inside a company that no label with a
 * price or weight has, and not that of cards.
 */
export async function ownCode(sql: Reader): Promise<string> {
  return (await ownCodes(sql)).next();
}

/** Codes of the shop's own, one after the other. */
export async function ownCodes(sql: Reader): Promise<{ next(): string }> {
  const { codeLayouts } = await readShop(sql);
  const prefix = OWN_RANGES.find((range) => !codeLayouts.some((layout) => layout.startsWith(String(range))));
  if (prefix === undefined)
    throw new Problem('not-valid', 'All ranges for codes of your own are used by labels.');
  let last = await store.lastOwnSerial(sql, String(prefix));
  return { next: () => ownEan13(prefix, (last += 1)) };
}

/** Ranges for use inside a company, in the order in which they are taken. */
const OWN_RANGES = [21, 22, 23, 25, 26, 27, 28, 29, 20];

/** What is wrong with a form, next to its fields. @throws Problem 422 where anything is */
export function refuse(problems: Readonly<Record<string, string | undefined>>, within = 'record.'): void {
  const fields = Object.entries(problems).flatMap(([field, message]) =>
    message === undefined ? [] : [{ field: `${within}${field}`, message }],
  );
  if (fields.length > 0) throw new Problem('not-valid', fields[0]?.message ?? '', { fields });
}

/** Codes and the number of an item mean nothing else. @throws Problem 422 */
export async function checkCodes(sql: Writer, record: WantedItem, id: number | null): Promise<void> {
  const taken = await store.takenCodes(sql, [record.number, ...record.codes], id);
  const words = ({ code, name }: { code: string; name: string }) => `${code} means ${name} already.`;
  const number = taken.find(({ code }) => code === record.number);
  const code = taken.find((one) => record.codes.includes(one.code));
  refuse({ number: number && words(number), codes: code && words(code) });
}

export const itemChanged = (name: string): Problem =>
  formChangedMeanwhile(`${name} was changed by somebody else meanwhile.`);

/** Changes what is known of an item, and keeps who did. @throws Problem 404, 409 when somebody else changed it, 422 */
export async function changeItem(
  sql: Writer,
  id: number,
  { record: wanted, version }: { record: WantedItem; version: number },
  by: By,
): Promise<void> {
  await store.lockItems(sql, [id]);
  const [before] = await store.readItems(sql, [id]);
  if (!before) throw noItem();
  if (before.version !== version) {
    throw itemChanged(before.record.name);
  }
  const record = tidyItem(wanted);
  refuse(itemProblems(record, before.record, before));
  await checkCodes(sql, record, id);
  const changes = itemChanges(before.record, record, await itemNames(sql));
  if (changes.length > 0) await store.putItems(sql, [{ id, record, before: before.record, changes }], by);
}

/** Adds an item, with what is on hand of it where the till stands. @throws Problem 422 */
export async function addItem(
  sql: Writer,
  { record: wanted, stock }: { record: WantedItem; stock: number },
  placeId: number,
  by: By,
): Promise<{ id: number }> {
  const record = tidyItem(wanted);
  const isNew = { kind: 'goods', moved: false, onHand: false } as const;
  refuse({
    ...itemProblems(record, null, isNew),
    ...(stock > 0 && !record.stocked && { stocked: 'What is not kept in stock has none.' }),
    ...(stock > 0 &&
      record.serials && { serials: 'Units with serial numbers are put in one by one, below.' }),
  });
  await checkCodes(sql, record, null);
  await addItems(
    sql,
    [
      {
        ...PLAIN_ITEM,
        ...record,
        categoryId: await categoryNamed(sql, record.category),
        stock: stock > 0 ? [{ placeId, quantity: stock }] : [],
      },
    ],
    by.at,
  );
  const id = await itemNumbered(sql, record.number);
  // What the till's way of adding knows nothing of: tags, group prices, weight, words; and who it was.
  await store.putItems(sql, [{ id, record, changes: [{ what: 'Added', was: '', became: record.name }] }], by);
  return { id };
}
