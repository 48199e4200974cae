import { formatDay } from '../../core/locale.ts';
import type { ManyEffect, ManyItems, WantedItem } from '../../contract/goods.ts';
import { formatMoney } from '../../core/money.ts';
import { itemChanges, itemProblems, type ItemNames } from '../../core/goods/itemRecord.ts';
import { changedItem } from '../../core/goods/manyItems.ts';
import type { RecordChange } from '../../core/recordChange.ts';
import { businessDate } from '../clock.ts';
import type { Database, Reader, Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { readShop, taxCategories } from '../shop/store.ts';
import { itemNames } from './items.ts';
import { putPricesToCome } from './priceStore.ts';
import { lockItems, putItems, readItems, type StoredItem } from './recordStore.ts';

/** What becomes of one item: as it was looked at, how it is kept then, and the price that it gets from a day on. */
interface Outcome extends ManyEffect {
  before: WantedItem;
  record: WantedItem | null;
  priceToCome: number | null;
}

/** So many items are looked at in one turn: whoever sells goes between. */
const PART = 500;

/** Refuses a change that cannot be made of any item. @throws Problem 422 */
async function checkChange(sql: Reader, { change }: ManyItems, at: Date): Promise<void> {
  if (
    change.taxCategoryId !== null &&
    !(await taxCategories(sql)).some(({ id }) => id === change.taxCategoryId)
  )
    throw fieldProblem('change.taxCategoryId', 'Which tax?');
  const from = change.price?.from ?? '';
  const { timezone } = await readShop(sql);
  if (from && from <= businessDate(at, timezone))
    throw fieldProblem('change.price.from', 'A price that is to come begins tomorrow or later.');
}

/** What a change does to an item; nothing where nothing changes about it. */
function outcomeOf(item: StoredItem, { change }: ManyItems, names: ItemNames): Outcome | null {
  const { id, record: before } = item;
  const from = change.price?.from ?? '';
  const said = { id, name: before.name, number: before.number, before, priceToCome: null, record: null };
  const after = changedItem(before, change, names.digits);
  if (typeof after === 'string') return { ...said, changes: [], refused: after };
  const record = { ...after.record, tags: [...after.record.tags] } as WantedItem;
  const [problem] = Object.values(itemProblems(record, before, item));
  if (problem) return { ...said, changes: [], refused: problem };
  const changes = itemChanges(before, record, names);
  const priceToCome = from && after.price !== before.price ? after.price : null;
  const coming: RecordChange[] =
    priceToCome === null
      ? []
      : [
          {
            what: `Price from ${formatDay(from)}`,
            was: before.price === null ? '' : formatMoney(before.price, names.digits),
            became: formatMoney(priceToCome, names.digits),
          },
        ];
  const all = [...changes, ...coming];
  return all.length === 0 ? null : { ...said, changes: all, refused: '', record, priceToCome };
}

const changedMeanwhile = (): Problem =>
  new Problem('changed-meanwhile', 'Some of these items were changed by somebody else meanwhile.', {
    detail: 'Nothing was changed. Look at the list again.',
  });

/**
 * What a change does to each of some items; of those that nothing changes about, nothing is said. @throws Problem 422
 * @param asSeen whether each must be in the version that was seen: @throws Problem 409 where one is not
 */
async function outcomes(database: Database, asked: ManyItems, at: Date, asSeen: boolean): Promise<Outcome[]> {
  await database.ask((sql) => checkChange(sql, asked, at));
  const all: Outcome[] = [];
  for (let first = 0; first < asked.items.length; first += PART) {
    const part = asked.items.slice(first, first + PART);
    const { names, stored } = await database.ask(async (sql) => ({
      names: await itemNames(sql),
      stored: await readItems(
        sql,
        part.map(({ id }) => id),
      ),
    }));
    const versions = new Map(stored.map(({ id, version }) => [id, version]));
    if (asSeen && part.some(({ id, version }) => versions.get(id) !== version)) throw changedMeanwhile();
    all.push(...stored.flatMap((item) => outcomeOf(item, asked, names) ?? []));
  }
  return all;
}

/** What a change of many would do, before it is done. */
export async function rehearseMany(database: Database, asked: ManyItems, at: Date): Promise<ManyEffect[]> {
  return (await outcomes(database, asked, at, false)).map(
    ({ before: _, record: __, priceToCome: ___, ...effect }) => effect,
  );
}

/** What becomes of each item that a change can be made of, in the version that was seen. @throws Problem 409, 422 */
export const lookAtMany = async (database: Database, asked: ManyItems, at: Date): Promise<Outcome[]> =>
  (await outcomes(database, asked, at, true)).filter(({ refused }) => refused === '');

/**
 * Changes many items; those that cannot have it stay as they are, as was said before.
 * @param looked what becomes of them: all that it depends on is of the version that was seen
 * @returns how many were changed @throws Problem 409 where one of them was changed meanwhile: nothing is done then
 */
export async function changeMany(
  sql: Writer,
  asked: ManyItems,
  looked: readonly Outcome[],
  by: { staffId: number; at: Date },
): Promise<{ changed: number }> {
  const versions = await lockItems(
    sql,
    asked.items.map(({ id }) => id),
  );
  if (asked.items.some(({ id, version }) => versions.get(id) !== version)) throw changedMeanwhile();
  await checkChange(sql, asked, by.at);
  await putItems(
    sql,
    looked.flatMap(({ id, record, before, changes }) => (record ? [{ id, record, before, changes }] : [])),
    by,
  );
  const from = asked.change.price?.from ?? '';
  await putPricesToCome(
    sql,
    looked.flatMap(({ id, priceToCome }) => (priceToCome === null ? [] : [{ id, from, price: priceToCome }])),
    by,
  );
  return { changed: looked.length };
}
