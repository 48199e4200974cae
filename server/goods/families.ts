import type { MoreVariants, NewFamily, WantedItem } from '../../contract/goods.ts';
import { familyProblems, MOST_VARIANTS, variantKey, variantName } from '../../core/goods/family.ts';
import { itemProblems } from '../../core/goods/itemRecord.ts';
import type { Writer } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { checkCodes, noItem, ownCodes, refuse, spelled, tidyItem, type By } from './items.ts';
import * as records from './recordStore.ts';
import { addItems, categoryNamed, itemIds, itemNumbered, PLAIN_ITEM } from './store.ts';
import { findFamily } from './familyStore.ts';

/** Adds a family and its variants. @throws Problem 422 */
export async function addFamily(sql: Writer, wanted: NewFamily, by: By): Promise<{ id: number }> {
  const record = tidyItem(wanted.record);
  const itself: WantedItem = {
    ...record,
    price: null,
    cost: null,
    stocked: false,
    serials: false,
    codes: [],
    groupPrices: [],
    weight: null,
  };
  // What the variants have in common is looked at as goods, for that they are.
  refuse(itemProblems({ ...record, codes: [] }, null, { kind: 'goods', moved: false, onHand: false }));
  refuse(familyProblems(wanted.axes, wanted.variants), '');
  await checkCodes(sql, itself, null);
  await addItems(
    sql,
    [
      {
        ...PLAIN_ITEM,
        ...itself,
        kind: 'family',
        axes: wanted.axes,
        categoryId: await categoryNamed(sql, record.category),
      },
    ],
    by.at,
  );
  const id = await itemNumbered(sql, record.number);
  const changes = [{ what: 'Added', was: '', became: record.name }];
  await records.putItems(sql, [{ id, record: itself, changes }], by);
  await makeVariants(sql, itself, { ...record, codes: [] }, wanted, by);
  return { id };
}

/** Makes more variants of a family: they are otherwise as the last one is that was made. @throws Problem 404, 422 */
export async function addVariants(sql: Writer, id: number, wanted: MoreVariants, by: By): Promise<void> {
  await records.lockItems(sql, [id]);
  const family = await findFamily(sql, id);
  const [stored] = await records.readItems(sql, [family?.lastVariant ?? id]);
  const [itself] = await records.readItems(sql, [id]);
  if (!family || !stored || !itself) throw noItem();
  if (family.variants.length + wanted.variants.length > MOST_VARIANTS)
    throw new Problem('not-valid', `A family has at most ${MOST_VARIANTS} variants.`);
  const there = new Set(family.variants.map(variantKey));
  const problems = familyProblems(family.axes, wanted.variants);
  wanted.variants.forEach(({ variant }, at) => {
    if (there.has(variantKey(variant))) problems[`variants[${at}].variant`] = 'This one is there already.';
  });
  refuse(problems, '');
  await makeVariants(sql, itself.record, { ...stored.record, groupPrices: [] }, wanted, by);
  const became = wanted.variants.map(({ variant }) => variant.join(', ')).join('; ');
  await records.noteItemChanges(sql, [{ id, changes: [{ what: 'Variants', was: '', became }] }], by);
}

/** @param common what all of them have in common */
async function makeVariants(
  sql: Writer,
  family: { number: string; name: string; active: boolean },
  common: WantedItem,
  { variants, ownCodes: own }: MoreVariants,
  by: By,
): Promise<void> {
  const codes = own ? await ownCodes(sql) : null;
  const made = variants.map(({ variant, number, code, price }) => {
    const codeOfIt = code ? spelled(code) : codes?.next();
    return {
      variant,
      record: tidyItem({
        ...common,
        number,
        name: variantName(family.name, variant),
        price,
        codes: codeOfIt ? [codeOfIt] : [],
        groupPrices: price === null ? [] : common.groupPrices,
        active: family.active,
      }),
    };
  });
  const taken = new Map(
    (
      await records.takenCodes(
        sql,
        made.flatMap(({ record }) => [record.number, ...record.codes]),
        null,
      )
    ).map(({ code, name }) => [code, `${code} means ${name} already.`]),
  );
  const problems: Record<string, string | undefined> = {};
  made.forEach(({ record }, at) => {
    problems[`variants[${at}].number`] = taken.get(record.number);
    problems[`variants[${at}].code`] = record.codes.map((code) => taken.get(code)).find(Boolean);
  });
  refuse(problems, '');
  const categoryId = await categoryNamed(sql, common.category);
  await addItems(
    sql,
    made.map(({ record, variant }) => ({
      ...PLAIN_ITEM,
      ...record,
      categoryId,
      family: family.number,
      variant,
    })),
    by.at,
  );
  const ids = await itemIds(
    sql,
    made.map(({ record }) => record.number),
  );
  const items = made.map(({ record }) => ({
    id: ids.get(record.number) ?? 0,
    record,
    changes: [{ what: 'Added', was: '', became: record.name }],
  }));
  await records.putItems(sql, items, by);
}
