import type { NewItemAtTill } from '../../contract/goods.ts';
import { readBarcode } from '../../core/goods/barcode.ts';
import type { Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { spelled } from './items.ts';
import { noteItemChanges, takenCodes } from './recordStore.ts';
import * as store from './store.ts';

interface By {
  staffId: number;
  at: Date;
}

/** Ties a code to an item. @throws Problem 422 when it means another item already */
export async function tieCode(sql: Writer, itemId: number, code: string, by: By): Promise<void> {
  await checkFree(sql, code);
  if (!(await store.addCode(sql, itemId, spelled(code)))) {
    throw new Problem('no-item', 'There is no such item.');
  }
  await noteItemChanges(sql, [{ id: itemId, changes: [{ what: 'Code', was: '', became: code }] }], by);
}

/** Adds an item with the code that nobody knew, which becomes its number too. @throws Problem 422 */
export async function addItemAtTill(sql: Writer, item: NewItemAtTill, by: By): Promise<{ id: number }> {
  await checkFree(sql, item.code);
  const number = item.code.toUpperCase();
  await store.addItems(
    sql,
    [
      {
        ...store.PLAIN_ITEM,
        number,
        name: item.name,
        price: item.price,
        categoryId: await store.categoryNamed(sql, item.category),
        taxCategoryId: item.taxCategoryId,
        codes: readBarcode(item.code).length > 0 ? [spelled(item.code)] : [],
      },
    ],
    by.at,
  );
  const id = await store.itemNumbered(sql, number);
  await noteItemChanges(sql, [{ id, changes: [{ what: 'Added', was: '', became: item.name }] }], by);
  return { id };
}

async function checkFree(sql: Writer, code: string): Promise<void> {
  const [taken] = await takenCodes(sql, [code], null);
  if (taken) throw fieldProblem('code', `${code} means ${taken.name} already.`);
}
