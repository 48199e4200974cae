import { array, boolean, dayOrNothing, number, object, safe, string, whole, type InferType } from './yup.ts';
import { GOODS_SORTS, type GoodsSort } from '../core/goods/itemList.ts';
import { LABEL_PAGES, type LabelLayout, type LabelPage } from '../core/goods/labelSheet.ts';
import { MOST_PARTS } from '../core/goods/bundle.ts';
import { MOST_VARIANTS } from '../core/goods/family.ts';
import { MOST_CODES, MOST_ITEM_TAGS } from '../core/goods/itemRecord.ts';
import type { ItemKind, ItemMore } from '../core/goods/item.ts';
import { ENDINGS, MOST_AT_ONCE, type Ending } from '../core/goods/manyItems.ts';
import { BY_HAND, type ReasonByHand, type StockReason } from '../core/goods/stockReasons.ts';
import { approvalSchema } from './staff.ts';
import type { RecordChange } from '../core/recordChange.ts';

/** One item in the till's copy of the catalogue, as a row: it travels a hundred thousand times. */
export type CatalogueRow = [
  id: number,
  number: string,
  name: string,
  category: string,
  price: number | null,
  unit: string,
  decimals: number,
  taxCategoryId: number,
  stock: number | null,
  codes: string[],
  more?: ItemMore,
];

export interface Catalogue {
  /** Which shop's history the revision belongs to: data that were put back from a backup begin another one. */
  origin: string;
  /** Ask for what is newer than this next time. */
  revision: number;
  /** Whether `items` is everything, not only what changed. */
  whole: boolean;
  items: CatalogueRow[];
  /** Items that are no longer sold. */
  removed: number[];
}

/** Everything that a cashier may want to see of an item. */
export interface ItemFacts {
  id: number;
  number: string;
  name: string;
  category: string;
  description: string;
  unit: string;
  price: number | null;
  codes: string[];
  /** Number of its picture, if it has one. */
  picture: number | null;
  /** The family it belongs to, if it is a variant. */
  familyId: number | null;
  minAge: number | null;
  /** Stock by place, this till's place first; empty when the item is not kept in stock. */
  /** What can be sold at each place, and what is there beside it but promised. */
  stock: { place: string; here: boolean; quantity: number; setAside: number }[];
  /** Newest first; the first one is the price of today. */
  prices: { price: number | null; changedAt: string }[];
}

/** A unit with a serial number that is in stock. */
export interface StockedSerial {
  serial: string;
  place: string;
  here: boolean;
}

const code = () =>
  string().trim().required('The code is missing.').max(40, 'A code has at most 40 characters.');

/** Ties a code to an item, so that it means the item from now on. */
export const tieCodeSchema = object({ code: code() });

/** A new item, added at the Counter with the code that nobody knew. */
export const newItemSchema = object({
  code: code(),
  name: string().trim().required('What is it called?').max(120, 'A name has at most 120 characters.'),
  price: whole().min(0, 'A price is not below zero.').required('Type its price.'),
  category: string().trim().required('Which category?').max(60),
  taxCategoryId: whole().required('Which tax?'),
});
export type NewItemAtTill = InferType<typeof newItemSchema>;

const price = () => safe().min(0, 'A price is not below zero.').max(1_000_000_000, 'That is too much.');
const tag = () => string().trim().required('A tag has a name.').max(40, 'A tag has at most 40 characters.');
const tags = () => array().of(tag()).max(MOST_ITEM_TAGS, `At most ${MOST_ITEM_TAGS} tags.`).required();

/** What is known of an item, as it is typed. */
export const itemRecordSchema = object({
  number: string().trim().required('What number has it?').max(40, 'A number has at most 40 characters.'),
  name: string().trim().required('What is it called?').max(120, 'A name has at most 120 characters.'),
  category: string().trim().required('Which category?').max(60, 'A category has at most 60 characters.'),
  description: string().trim().max(1000, 'A description has at most 1,000 characters.').defined(),
  unit: string().trim().required('What is one called?').max(12, 'A unit has at most 12 characters.'),
  decimals: whole().min(0, 'From 0 to 3.').max(3, 'From 0 to 3.').required('From 0 to 3.'),
  price: price().nullable().defined('Type its price.'),
  groupPrices: array()
    .of(
      object({ group: string().required('Which group?').max(60), price: price().required('Type a price.') }),
    )
    .max(50)
    .required(),
  cost: price().nullable().defined(),
  taxCategoryId: whole().required('Which tax?'),
  stocked: boolean().required(),
  serials: boolean().required(),
  minAge: whole().min(1, 'From 1 to 99.').max(99, 'From 1 to 99.').nullable().defined(),
  asksNote: string().trim().max(120, 'A question has at most 120 characters.').defined(),
  weight: whole().min(0, 'Zero or more.').max(100_000_000, 'That is too much.').nullable().defined(),
  tags: tags(),
  codes: array().of(code()).max(MOST_CODES, `At most ${MOST_CODES} codes.`).required(),
  active: boolean().required(),
});
export type WantedItem = InferType<typeof itemRecordSchema>;

/** A new item, with what is on the shelf of it already. */
export const addItemSchema = object({
  record: itemRecordSchema.required(),
  /** On hand where the till stands, in thousandths. */
  stock: safe().min(0, 'Zero or more.').max(1_000_000_000_000, 'That is too much.').default(0),
});

export const changeItemSchema = object({ record: itemRecordSchema.required(), version: whole().required() });

const value = () =>
  string().trim().required('A value is missing.').max(30, 'A value has at most 30 characters.');
/** Variants that are made of a family; each is goods of its own. */
const variants = () =>
  array()
    .of(
      object({
        variant: array().of(value()).min(1).max(2).required(),
        number: string()
          .trim()
          .required('What number has it?')
          .max(40, 'A number has at most 40 characters.'),
        code: string().trim().max(40, 'A code has at most 40 characters.').default(''),
        price: price().nullable().defined('Type its price.'),
      }),
    )
    .min(1, 'Which variants are there?')
    .max(MOST_VARIANTS, `At most ${MOST_VARIANTS} variants at once.`)
    .required();
/** Variants get a code of the shop's own where they have none. */
const ownCodes = () => boolean().default(false);

/** A new family. @property record what it is, and what its variants have in common */
export const newFamilySchema = object({
  record: itemRecordSchema.required(),
  axes: array()
    .of(string().trim().required('What do they differ in?').max(30, 'At most 30 characters.'))
    .min(1, 'What do they differ in?')
    .max(2)
    .required(),
  variants: variants(),
  ownCodes: ownCodes(),
});
export type NewFamily = InferType<typeof newFamilySchema>;

/** More variants of a family that is there. */
export const moreVariantsSchema = object({ variants: variants(), ownCodes: ownCodes() });
export type MoreVariants = InferType<typeof moreVariantsSchema>;

const parts = () =>
  array()
    .of(
      object({
        itemId: whole().required(),
        quantity: safe().min(1, 'How many?').max(1_000_000_000, 'That is too much.').required('How many?'),
      }),
    )
    .min(1, 'What is in it?')
    .max(MOST_PARTS, `At most ${MOST_PARTS} different things.`)
    .required();
export const newBundleSchema = object({ record: itemRecordSchema.required(), parts: parts() });
/** What a bundle is made of from now on. */
export const partsSchema = object({ parts: parts(), version: whole().required() });
export type WantedPart = InferType<typeof partsSchema>['parts'][number];

/** A price that counts from a day on. */
export const priceToComeSchema = object({
  from: dayOrNothing()
    .required('From which day?')
    .test('day', 'From which day?', (value) => value !== ''),
  price: price().required('Type a price.'),
});

/** Stock that somebody puts right. @property quantity in thousandths, above zero */
export const stockByHandSchema = object({
  placeId: whole().required('Where?'),
  reason: string<ReasonByHand>()
    .oneOf(Object.keys(BY_HAND) as ReasonByHand[])
    .required('Why?'),
  quantity: safe().min(1, 'How many?').max(1_000_000_000_000, 'That is too much.').required('How many?'),
  words: string().trim().max(200, 'At most 200 characters.').default(''),
  /** What a unit cost that comes in; what the item is known to cost where nobody says. */
  unitCost: price().nullable().default(null),
  /** Of an item with serial numbers: of each unit. */
  serials: array()
    .of(string().trim().required('Which one?').max(40))
    .max(100, 'At most 100 at once.')
    .default([]),
  approval: approvalSchema,
});
export type StockByHand = InferType<typeof stockByHandSchema>;

const flag = () => string().oneOf(['', 'yes']).default('');
/** Goods that are looked for: by words, a number or a code, as they are typed, or by just the code that was scanned. */
export const lookUpSchema = object({
  find: string().max(120).default(''),
  code: string().max(120).default(''),
});
export type LookUp = InferType<typeof lookUpSchema>;
/** One of the two. */
export type Asked = { find: string } | { code: string };

/** Which items a list shows. */
export const goodsListSchema = lookUpSchema.shape({
  category: whole().default(0),
  tax: whole().default(0),
  tag: string().max(40).default(''),
  supplier: whole().default(0),
  /** Sold, or not any more; empty for both. */
  state: string().oneOf(['', 'sold', 'ended']).default('sold'),
  noCode: flag(),
  noPrice: flag(),
  noCost: flag(),
  /** Kept in stock, and nothing of it here. */
  out: flag(),
  /** Less of it here than its reorder point. */
  below: flag(),
  sort: string<GoodsSort>()
    .oneOf(Object.keys(GOODS_SORTS) as GoodsSort[])
    .default('name'),
  page: whole().min(0).max(1_000_000).default(0),
});
export type GoodsQuery = InferType<typeof goodsListSchema>;

/** An item as the list shows it. */
export interface GoodsRow {
  id: number;
  version: number;
  kind: ItemKind;
  number: string;
  name: string;
  category: string;
  unit: string;
  decimals: number;
  price: number | null;
  /** The next price that is known to come, and from when on. */
  toCome: { from: string; price: number } | null;
  tags: string[];
  code: string;
  tax: string;
  /** From whom it comes first. */
  supplier: string;
  /** What one costs the shop; null where it is not known, or for those who see no costs. */
  cost: number | null;
  active: boolean;
  /** What can be sold here, and at all other places; `null` where it is not kept in stock. */
  here: number | null;
  elsewhere: number | null;
}

export interface GoodsPage {
  rows: GoodsRow[];
  count: number;
  categories: { id: number; name: string }[];
  /** Tags that are in use. */
  tags: string[];
  suppliers: { id: number; name: string }[];
  /** Items whose label shows another price than they have. */
  labelsDue: number;
}

export interface StockMoveView {
  id: number;
  at: string;
  place: string;
  quantity: number;
  reason: StockReason;
  words: string;
  by: string;
  /** The sale that moved it, with its number as printed. */
  sale: { id: string; number: string } | null;
  promiseId: string | null;
}

/** Everything that the page of an item shows. */
export interface ItemPage {
  id: number;
  kind: ItemKind;
  version: number;
  record: WantedItem;
  /** Its family, where it is a variant, and its values there. */
  family: { id: number; name: string; variant: string[] } | null;
  /** Of a family or a bundle: what is in it. */
  contains: {
    id: number;
    number: string;
    name: string;
    /** Of a variant: its value on each axis. */
    variant: string[];
    quantity: number | null;
    unit: string;
    decimals: number;
    price: number | null;
    active: boolean;
  }[];
  axes: string[];
  /** Numbers of its pictures; the first is the one that tills show. */
  pictures: number[];
  /** Whether any of it ever moved: how it is counted stands then. */
  moved: boolean;
  stock: { placeId: number; place: string; here: boolean; onHand: number; setAside: number }[];
  /** Prices that it had, newest first, and those that are to come. */
  prices: { price: number | null; changedAt: string }[];
  toCome: { from: string; price: number; by: string }[];
  moves: StockMoveView[];
  /** Sold by month, oldest first: units in thousandths, and what they came to without tax. */
  months: { month: string; quantity: number; net: number }[];
  changes: (RecordChange & { at: string; who: string })[];
  addedAt: string;
  /** Categories, units and tags that are in use. */
  categories: string[];
  units: string[];
  tags: string[];
  /** Groups of customers, for prices of their own. */
  groups: string[];
}

const length = (most: number) => whole().min(0, 'Zero or more.').max(most, 'That is too much.');
/** How labels lie on a sheet, or come from a roll; lengths in tenths of a millimetre. */
const labelLayoutSchema = object({
  kind: string()
    .oneOf(['sheet', 'roll'] as const)
    .required(),
  page: string<LabelPage>()
    .oneOf(Object.keys(LABEL_PAGES) as LabelPage[])
    .required(),
  columns: whole().min(1, 'At least one.').max(20, 'At most 20.').required('How many?'),
  rows: whole().min(1, 'At least one.').max(50, 'At most 50.').required('How many?'),
  width: length(3000).required('How wide?'),
  height: length(3000).required('How high?'),
  left: length(2000).required('How far?'),
  top: length(2000).required('How far?'),
  gapX: length(1000).required('How far?'),
  gapY: length(1000).required('How far?'),
});

/** Which labels are printed, and on what. */
export const labelsSchema = object({
  which: string()
    .oneOf(['changed', 'never', 'picked'] as const)
    .required(),
  items: array()
    .of(
      object({
        id: whole().required(),
        copies: whole().min(1, 'At least one.').max(999, 'At most 999.').required(),
      }),
    )
    .max(500, 'At most 500 items at once.')
    .default([]),
  layout: labelLayoutSchema.required(),
  /** What offers make of the price for everybody today is printed with it. */
  offers: boolean().default(false),
  /** The first free place of the first sheet. */
  first: whole().min(1, 'From 1 on.').max(1000).required('From 1 on.'),
});
export type WantedLabels = InferType<typeof labelsSchema>;

export interface LabelPrint {
  id: number;
  at: string;
  who: string;
  items: number;
  labels: number;
}

export interface LabelsPage {
  /** Items whose label shows another price than they have, and those on no label yet. */
  changed: number;
  never: number;
  layout: LabelLayout;
  prints: LabelPrint[];
}

/** What is changed of many items at once. */
const manyChangeSchema = object({
  category: string().trim().max(60).nullable().default(null),
  taxCategoryId: whole().nullable().default(null),
  addTags: tags(),
  dropTags: tags(),
  active: boolean().nullable().default(null),
  price: object({
    by: string()
      .oneOf(['amount', 'percent', 'to'] as const)
      .required(),
    amount: safe().min(-1_000_000_000).max(1_000_000_000).default(0),
    rate: whole().min(-1_000_000, 'At most 100 % less.').max(10_000_000, 'At most 1,000 % more.').default(0),
    ending: number<Ending>()
      .oneOf([...ENDINGS])
      .nullable()
      .default(null),
    from: dayOrNothing().default(''),
  })
    .nullable()
    .default(null),
});

/** Which items, as they were seen: one that was changed meanwhile is not changed again. */
export const manyItemsSchema = object({
  items: array()
    .of(object({ id: whole().required(), version: whole().required() }))
    .min(1, 'Pick some items first.')
    .max(MOST_AT_ONCE, `At most ${MOST_AT_ONCE} at once.`)
    .required(),
  change: manyChangeSchema.required(),
});
export type ManyItems = InferType<typeof manyItemsSchema>;

/** An item that is picked, in the version that was seen. */
export type PickedItem = ManyItems['items'][number];

/** What a change of many does to one of them. */
export interface ManyEffect {
  id: number;
  name: string;
  number: string;
  /** What changes, or why it cannot. */
  changes: RecordChange[];
  refused: string;
}
