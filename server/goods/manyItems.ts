import { formatDay } from '../../core/locale.ts';
import type { ManyEffect, ManyItems, WantedItem } from '../../contract/goods.ts';
import { formatMoney } from '../../core/money.ts';
import { itemChanges, itemProblems } from '../../core/goods/itemRecord.ts';
import { changedItem } from '../../core/goods/manyItems.ts';
import type { RecordChange } from '../../core/recordChange.ts';
import { businessDate } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { readShop, taxCategories } from '../shop/store.ts';
import { itemNames } from './items.ts';
import { putPricesToCome } from './priceStore.ts';
import { lockItems, putItems, readItems } from './recordStore.ts';

/** What becomes of one item: how it is kept then, and the price that it gets from a day on. */
interface Outcome extends ManyEffect {
  record: WantedItem | null;
  priceToCome: number | null;
}

/**
 * What a change does to each of some items; of those that nothing changes about, nothing is said. @throws Problem 422
 */
async function outcomes(sql: Reader, { items, change }: ManyItems, at: Date): Promise<Outcome[]> {
  if (
    change.taxCategoryId !== null &&
    !(await taxCategories(sql)).some(({ id }) => id === change.taxCategoryId)
  )
    throw fieldProblem('change.taxCategoryId', 'Which tax?');
  const from = change.price?.from ?? '';
  const { timezone } = await readShop(sql);
  if (from && from <= businessDate(at, timezone))
    throw fieldProblem('change.price.from', 'A price that is to come begins tomorrow or later.');
  const names = await itemNames(sql);
  const stored = await readItems(
    sql,
    items.map(({ id }) => id),
  );
  return stored.flatMap((item): Outcome[] => {
    const { id, record: before } = item;
    const said = { id, name: before.name, number: before.number, priceToCome: null, record: null };
    const after = changedItem(before, change, names.digits);
    if (typeof after === 'string') return [{ ...said, changes: [], refused: after }];
    const record = { ...after.record, tags: [...after.record.tags] } as WantedItem;
    const [problem] = Object.values(itemProblems(record, before, item));
    if (problem) return [{ ...said, changes: [], refused: problem }];
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
    return all.length === 0 ? [] : [{ ...said, changes: all, refused: '', record, priceToCome }];
  });
}

/** What a change of many would do, before it is done. */
export async function rehearseMany(sql: Reader, asked: ManyItems, at: Date): Promise<ManyEffect[]> {
  return (await outcomes(sql, asked, at)).map(({ record: _, priceToCome: __, ...effect }) => effect);
}

/**
 * Changes many items; those that cannot have it stay as they are, as was said before.
 * @returns how many were changed @throws Problem 409 where one of them was changed meanwhile: nothing is done then
 */
export async function changeMany(
  sql: Writer,
  asked: ManyItems,
  by: { staffId: number; at: Date },
): Promise<{ changed: number }> {
  const ids = asked.items.map(({ id }) => id);
  await lockItems(sql, ids);
  const versions = new Map((await readItems(sql, ids)).map(({ id, version }) => [id, version]));
  if (asked.items.some(({ id, version }) => versions.get(id) !== version))
    throw new Problem('changed-meanwhile', 'Some of these items were changed by somebody else meanwhile.', {
      detail: 'Nothing was changed. Look at the list again.',
    });
  const done = (await outcomes(sql, asked, by.at)).filter(({ refused }) => refused === '');
  await putItems(
    sql,
    done.flatMap(({ id, record, changes }) => (record ? [{ id, record, changes }] : [])),
    by,
  );
  const from = asked.change.price?.from ?? '';
  await putPricesToCome(
    sql,
    done.flatMap(({ id, priceToCome }) => (priceToCome === null ? [] : [{ id, from, price: priceToCome }])),
    by,
  );
  return { changed: done.length };
}
