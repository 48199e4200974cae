import type { Quantity } from '../quantity.ts';
import type { RecordChange } from '../recordChange.ts';
import { formatMoney, type Money } from '../money.ts';
import { variantKey } from './family.ts';
import type { ItemKind } from './item.ts';
import { NOTHING_BESIDE, sourceChanges, type ItemBeside } from './itemBeside.ts';
import { lineToItem, type ItemColumn, type ItemListPlace } from './itemColumns.ts';
import { itemChanges, itemProblems, type ItemNames, type ItemRecord, type ItemState } from './itemRecord.ts';

/** An item that is known, with what says how it may be changed. */
export interface KnownItem extends ItemState {
  id: number;
  record: ItemRecord;
  beside: ItemBeside;
}

/** What is known of items that some lines may be about. */
export interface KnownGoods {
  /** By number, in capitals, and by code, in small letters. */
  byNumber: ReadonlyMap<string, KnownItem>;
  byCode: ReadonlyMap<string, KnownItem>;
  /** Codes that are cards of customers, in capitals. */
  cards: ReadonlySet<string>;
  /** Numbers by which the shop rings up money. */
  money: ReadonlySet<string>;
  place: ItemListPlace;
  names: ItemNames;
  /** What variants differ in, by the number of their family, and which there are, by `variantWord`. */
  families: ReadonlyMap<string, readonly string[]>;
  variants: ReadonlySet<string>;
}

/** What tells a variant of a family, as what was read before is kept by. */
export const variantWord = (family: string, variant: readonly string[]): string =>
  `${family} ${variantKey(variant)}`;

/**
 * What was read in the lines before: which line had a number, a code, or a variant; of a family what its variants
 * differ in.
 */
export type GoodsBefore = Map<string, { line: number; axes: readonly string[] }>;

/** What becomes of a line. */
export type JudgedItem =
  | { outcome: 'new'; record: ItemRecord; beside: ItemBeside; stock: Quantity }
  | { outcome: 'changed'; id: number; record: ItemRecord; beside: ItemBeside; changes: RecordChange[] }
  | { outcome: 'same'; id: number }
  | { outcome: 'refused'; name: string; why: string };

/**
 * What becomes of a line of a list: the item with its number, else the one with one of its codes, is changed; else it
 * is new.
 * @param problems what is wrong with a record, in words
 */
export function judgeItem(
  cells: Partial<Record<ItemColumn, string>>,
  line: number,
  goods: KnownGoods,
  before: GoodsBefore,
  problems: (record: ItemRecord) => string[],
): JudgedItem {
  const { byNumber, byCode, place, names } = goods;
  const first = lineToItem(cells, null, NOTHING_BESIDE, place);
  const named = cells.number?.trim().toUpperCase();
  const known =
    (named ? byNumber.get(named) : undefined) ??
    first.record.codes.map((code) => byCode.get(code.toLowerCase())).find((one) => one !== undefined);
  const refuse = (why: string): JudgedItem => ({
    outcome: 'refused',
    name: first.record.name || (known?.record.name ?? ''),
    why,
  });
  const { record, beside, stock, wrong } = known
    ? lineToItem(cells, known.record, known.beside, place)
    : first;
  const kind = beside.axes.length > 0 ? 'family' : 'goods';
  const state = known ?? ({ kind, moved: false, onHand: false } as const);
  const [problem] = [
    ...wrong,
    ...problems(record),
    ...Object.values(itemProblems(record, known?.record ?? null, state)),
    ...(stock > 0 && !known && (!record.stocked || record.serials)
      ? ['What is on hand of it cannot be brought by a list.']
      : []),
    ...besideProblems(beside, known?.beside ?? null, state.kind, goods, before),
    ...taken(record, known?.id ?? null, goods),
  ];
  if (problem !== undefined) return refuse(problem);
  for (const word of [record.number, ...record.codes]) {
    const other = before.get(word)?.line;
    if (other !== undefined && other !== line) return refuse(`Line ${other} has ${word} as well.`);
    before.set(word, { line, axes: beside.axes });
  }
  if (beside.family && !known) before.set(variantWord(beside.family, beside.variant), { line, axes: [] });
  if (!known) return { outcome: 'new', record, beside, stock };
  const money = (amount: Money) => formatMoney(amount, names.digits);
  const changes = [
    ...itemChanges(known.record, record, names),
    ...sourceChanges(known.beside.source, beside.source, money),
  ];
  return changes.length === 0
    ? { outcome: 'same', id: known.id }
    : { outcome: 'changed', id: known.id, record, beside, changes };
}

/** What keeps an item out of its family, or from its supplier. @param was as it is known; nothing of a new item */
function besideProblems(
  beside: ItemBeside,
  was: ItemBeside | null,
  kind: ItemKind,
  { families, variants }: KnownGoods,
  before: GoodsBefore,
): string[] {
  const { axes, family, variant, source } = beside;
  const problems: string[] = [];
  if (source && kind !== 'goods') problems.push('Only goods come from a supplier.');
  if (source && (source.supplier.length > 80 || source.number.length > 40))
    problems.push('The name or number of the supplier is too long.');
  if (was) {
    const stands = (one: ItemBeside) => variantWord(one.axes.join(';'), [one.family, ...one.variant]);
    if (stands(was) !== stands(beside)) problems.push('What it is of its family stands.');
    return problems;
  }
  if (axes.length > 2 || [...axes, ...variant].some((word) => word.length > 30))
    problems.push('A family differs in one thing or two, in at most 30 characters.');
  if (family === '') return variant.length > 0 ? [...problems, 'Which family is it of?'] : problems;
  const differs = families.get(family) ?? before.get(family)?.axes ?? [];
  if (axes.length > 0 || differs.length === 0) problems.push(`There is no family ${family} before it.`);
  else if (differs.length !== variant.length)
    problems.push(`A variant of ${family} says its ${differs.join(' and ')}.`);
  const word = variantWord(family, variant);
  if (variants.has(word) || before.has(word)) problems.push(`${family} has ${variant.join(', ')} already.`);
  return problems;
}

/** Numbers and codes that mean something else already. */
const taken = (
  { number, codes }: ItemRecord,
  id: number | null,
  { byNumber, byCode, cards, money }: KnownGoods,
): string[] =>
  [number, ...codes].flatMap((word) => {
    const other = byCode.get(word.toLowerCase()) ?? byNumber.get(word.toUpperCase());
    if (other && other.id !== id) return [`${word} means ${other.record.name} already.`];
    if (money.has(word.toUpperCase())) return [`${word} is kept for money.`];
    return cards.has(word.toUpperCase()) ? [`${word} is the card of a customer.`] : [];
  });
