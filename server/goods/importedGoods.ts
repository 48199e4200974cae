import { itemRecordSchema, type WantedItem } from '../../contract/goods.ts';
import type { ImportLine } from '../../contract/imports.ts';
import {
  itemColumnOf,
  lineToItem,
  type ItemColumn,
  type ItemListPlace,
} from '../../core/goods/itemColumns.ts';
import { NOTHING_BESIDE } from '../../core/goods/itemBeside.ts';
import {
  judgeItem,
  variantWord,
  type GoodsBefore,
  type JudgedItem,
  type KnownGoods,
  type KnownItem,
} from '../../core/goods/judgeItem.ts';
import type { Reader, Writer } from '../db/database.ts';
import { importerOf, type Bringing, type CellsOfLine, type ImportKind } from '../imports/importing.ts';
import { recordProblems } from '../imports/recordProblems.ts';
import { taxCategories } from '../shop/store.ts';
import {
  besideOf,
  cardsAmong,
  countGoodsAgain,
  familiesNamed,
  itemsNamed,
  moneyNumbers,
  putSources,
} from './importedStore.ts';
import { itemNames } from './items.ts';
import { lockItems, putItems, readItems } from './recordStore.ts';
import { addItems, categoryNamed, itemIds, PLAIN_ITEM } from './store.ts';

type Cells = Partial<Record<ItemColumn, string>>;

/** How lists of goods are read and written where the shop is. */
export async function itemListPlace(sql: Reader): Promise<ItemListPlace> {
  const taxes = await taxCategories(sql);
  const { digits } = await itemNames(sql);
  return {
    digits,
    taxIds: new Map(taxes.map(({ id, name }) => [name.toLowerCase(), id])),
    taxNames: new Map(taxes.map(({ id, name }) => [id, name])),
  };
}

/** Numbers and codes that some lines name. */
const wordsOf = (part: readonly CellsOfLine[], place: ItemListPlace): string[] =>
  part.flatMap(({ cells }) => {
    const { record } = lineToItem(cells as Cells, null, NOTHING_BESIDE, place);
    return [record.number, ...record.codes];
  });

/** What is known of items that some lines may be about. */
async function knownOf(sql: Reader, part: readonly CellsOfLine[]): Promise<KnownGoods> {
  const place = await itemListPlace(sql);
  const words = wordsOf(part, place);
  const stored = await readItems(sql, await itemsNamed(sql, words));
  const beside = await besideOf(
    sql,
    stored.map(({ id }) => id),
  );
  const items: KnownItem[] = stored.map((item) => ({
    ...item,
    beside: beside.get(item.id) ?? NOTHING_BESIDE,
  }));
  const families = await familiesNamed(
    sql,
    part.map(({ cells }) => (cells as Cells).family?.trim().toUpperCase() ?? ''),
  );
  return {
    byNumber: new Map(items.map((item) => [item.record.number.toUpperCase(), item])),
    byCode: new Map(
      items.flatMap((item) => item.record.codes.map((code) => [code.toLowerCase(), item] as const)),
    ),
    cards: new Set(await cardsAmong(sql, words)),
    money: new Set(await moneyNumbers(sql)),
    place,
    names: await itemNames(sql),
    families: new Map(families.map(({ number, axes }) => [number, axes])),
    variants: new Set(
      families.flatMap(({ number, variants }) => variants.map((variant) => variantWord(number, variant))),
    ),
  };
}

/** A line as the report shows it. */
function reported(line: number, judged: JudgedItem): ImportLine {
  const { outcome } = judged;
  if (outcome === 'same') return { line, outcome, name: '', words: '', knownId: judged.id };
  if (outcome === 'refused')
    return { line, outcome, name: judged.name.slice(0, 120), words: judged.why.slice(0, 400), knownId: null };
  const { name } = judged.record;
  if (outcome === 'new') return { line, outcome, name, words: '', knownId: null };
  const words = judged.changes.map(({ what, was, became }) => `${what}: ${was || '–'} → ${became || '–'}`);
  return { line, outcome, name, words: words.join('; ').slice(0, 400), knownId: judged.id };
}

const GOODS: ImportKind<JudgedItem, KnownGoods, GoodsBefore> = {
  columnOf: itemColumnOf,
  nothingBefore: () => new Map(),
  async lockPart(sql, part) {
    await lockItems(sql, await itemsNamed(sql, wordsOf(part, await itemListPlace(sql))));
  },
  knownOf,
  judge: ({ line, cells }, known, before) =>
    judgeItem(cells as Cells, line, known, before, (record) => recordProblems(itemRecordSchema, record)),
  reported,
  writePart,
  // What was written is known by its number; the same in a later line was refused when the list was looked through.
  remember: () => {},
  forgetFrom(line, before) {
    for (const [word, at] of before) if (at.line >= line) before.delete(word);
  },
  countAgain: countGoodsAgain,
  in: { kind: 'catalogue-changed' },
};

async function writePart(
  sql: Writer,
  found: readonly JudgedItem[],
  { name, staffId, placeId, at }: Bringing,
): Promise<void> {
  const fresh = found.flatMap((judged) => (judged.outcome === 'new' ? [judged] : []));
  if (fresh.length > 0) {
    const categories = new Map<string, number>();
    for (const { record } of fresh)
      if (!categories.has(record.category))
        categories.set(record.category, await categoryNamed(sql, record.category));
    await addItems(
      sql,
      fresh.map(({ record, beside: { axes, family, variant }, stock }) => ({
        ...PLAIN_ITEM,
        ...record,
        kind: axes.length > 0 ? ('family' as const) : ('goods' as const),
        axes,
        family: family || null,
        variant,
        categoryId: categories.get(record.category) ?? 0,
        stock: stock > 0 && placeId !== null ? [{ placeId, quantity: stock }] : [],
      })),
      at,
    );
  }
  const ids = await itemIds(
    sql,
    fresh.map(({ record }) => record.number),
  );
  const put = found.flatMap((judged) => {
    if (judged.outcome === 'new') {
      const id = ids.get(judged.record.number) ?? 0;
      const added = { what: 'Added', was: '', became: `${judged.record.name}, from ${name}` };
      return [{ id, record: judged.record as WantedItem, changes: [added] }];
    }
    if (judged.outcome !== 'changed') return [];
    return [{ id: judged.id, record: judged.record as WantedItem, changes: judged.changes }];
  });
  await putItems(sql, put, { staffId, at });
  const sources = found.flatMap((judged) => {
    if ((judged.outcome !== 'new' && judged.outcome !== 'changed') || !judged.beside.source) return [];
    const itemId = judged.outcome === 'new' ? (ids.get(judged.record.number) ?? 0) : judged.id;
    return [{ itemId, ...judged.beside.source }];
  });
  await putSources(sql, sources, at);
}

export const importedGoods = importerOf(GOODS);
