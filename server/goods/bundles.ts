import type { WantedItem, WantedPart } from '../../contract/goods.ts';
import { partProblem } from '../../core/goods/bundle.ts';
import { itemProblems, quantityWords } from '../../core/goods/itemRecord.ts';
import type { Writer } from '../db/database.ts';
import { possibleParts, putParts } from './familyStore.ts';
import { checkCodes, itemChanged, noItem, refuse, tidyItem, type By } from './items.ts';
import * as pages from './pageStore.ts';
import * as records from './recordStore.ts';
import { addItems, categoryNamed, itemNumbered, PLAIN_ITEM } from './store.ts';

/** Adds a bundle with what is in it. @throws Problem 422 */
export async function addBundle(
  sql: Writer,
  wanted: { record: WantedItem; parts: readonly WantedPart[] },
  by: By,
): Promise<{ id: number }> {
  const record = tidyItem(wanted.record);
  refuse(itemProblems(record, null, { kind: 'bundle', moved: false, onHand: false }));
  await checkCodes(sql, record, null);
  await checkParts(sql, wanted.parts);
  const categoryId = await categoryNamed(sql, record.category);
  await addItems(sql, [{ ...PLAIN_ITEM, ...record, kind: 'bundle', categoryId }], by.at);
  const id = await itemNumbered(sql, record.number);
  await putParts(sql, id, wanted.parts);
  const changes = [{ what: 'Added', was: '', became: record.name }];
  await records.putItems(sql, [{ id, record, changes }], by);
  return { id };
}

/** Puts other things into a bundle. @throws Problem 404, 409 when somebody else changed it, 422 */
export async function changeParts(
  sql: Writer,
  id: number,
  { parts, version }: { parts: readonly WantedPart[]; version: number },
  { placeId, ...by }: By & { placeId: number },
): Promise<void> {
  await records.lockItems(sql, [id]);
  const [before] = await records.readItems(sql, [id]);
  if (before?.kind !== 'bundle') throw noItem();
  if (before.version !== version) throw itemChanged(before.record.name);
  await checkParts(sql, parts);
  const inWords = async () =>
    ((await pages.besideRecord(sql, id, placeId))?.contains ?? [])
      .map(({ name, quantity, unit }) => `${quantityWords(quantity ?? 0, unit)} × ${name}`)
      .join(', ');
  const was = await inWords();
  await putParts(sql, id, parts);
  const became = await inWords();
  await records.noteItemChanges(sql, [{ id, changes: [{ what: 'What is in it', was, became }] }], by);
}

async function checkParts(sql: Writer, parts: readonly WantedPart[]): Promise<void> {
  const possible = await possibleParts(
    sql,
    parts.map(({ itemId }) => itemId),
  );
  const money = await records.notGoods(sql);
  const problems: Record<string, string | undefined> = {};
  parts.forEach(({ itemId, quantity }, at) => {
    const twice = parts.findIndex((one) => one.itemId === itemId) < at;
    const item = money.has(itemId) ? undefined : possible.get(itemId);
    problems[`parts[${at}].quantity`] = twice
      ? 'It stands there twice.'
      : (partProblem(item, quantity) ?? undefined);
  });
  refuse(problems, '');
}
