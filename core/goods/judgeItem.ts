import type { Quantity } from '../quantity.ts';
import type { RecordChange } from '../recordChange.ts';
import { lineToItem, type ItemColumn, type ItemListPlace } from './itemColumns.ts';
import { itemChanges, itemProblems, type ItemNames, type ItemRecord, type ItemState } from './itemRecord.ts';

/** An item that is known, with what says how it may be changed. */
export interface KnownItem extends ItemState {
  id: number;
  record: ItemRecord;
}

/** What is known of items that some lines may be about. */
export interface KnownGoods {
  /** By number, in capitals, and by code. */
  byNumber: ReadonlyMap<string, KnownItem>;
  byCode: ReadonlyMap<string, KnownItem>;
  /** Codes that are cards of customers, in capitals. */
  cards: ReadonlySet<string>;
  /** Numbers by which the shop rings up money. */
  money: ReadonlySet<string>;
  place: ItemListPlace;
  names: ItemNames;
}

/** What was read in the lines before: which line had a number, or a code. */
export type GoodsBefore = Map<string, number>;

/** What becomes of a line. */
export type JudgedItem =
  | { outcome: 'new'; record: ItemRecord; stock: Quantity }
  | { outcome: 'changed'; id: number; record: ItemRecord; changes: RecordChange[] }
  | { outcome: 'same'; id: number }
  | { outcome: 'refused'; name: string; why: string };

/**
 * What becomes of a line of a list: the item with its number, else the one with one of its codes, is changed; else it is new.
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
  const first = lineToItem(cells, null, place);
  const named = cells.number?.trim().toUpperCase();
  const known =
    (named ? byNumber.get(named) : undefined) ??
    first.record.codes.map((code) => byCode.get(code)).find((one) => one !== undefined);
  const refuse = (why: string): JudgedItem => ({
    outcome: 'refused',
    name: first.record.name || (known?.record.name ?? ''),
    why,
  });
  const { record, stock, wrong } = known ? lineToItem(cells, known.record, place) : first;
  const state = known ?? ({ kind: 'goods', moved: false, onHand: false } as const);
  const [problem] = [
    ...wrong,
    ...problems(record),
    ...Object.values(itemProblems(record, known?.record ?? null, state)),
    ...(stock > 0 && !known && (!record.stocked || record.serials)
      ? ['What is on hand of it cannot be brought by a list.']
      : []),
    ...taken(record, known?.id ?? null, goods),
  ];
  if (problem !== undefined) return refuse(problem);
  for (const word of [record.number, ...record.codes]) {
    const other = before.get(word);
    if (other !== undefined && other !== line) return refuse(`Line ${other} has ${word} as well.`);
    before.set(word, line);
  }
  if (!known) return { outcome: 'new', record, stock };
  const changes = itemChanges(known.record, record, names);
  return changes.length === 0
    ? { outcome: 'same', id: known.id }
    : { outcome: 'changed', id: known.id, record, changes };
}

/** Numbers and codes that mean something else already. */
const taken = (
  { number, codes }: ItemRecord,
  id: number | null,
  { byNumber, byCode, cards, money }: KnownGoods,
): string[] =>
  [number, ...codes].flatMap((word) => {
    const other = byCode.get(word) ?? byNumber.get(word.toUpperCase());
    if (other && other.id !== id) return [`${word} means ${other.record.name} already.`];
    if (money.has(word.toUpperCase())) return [`${word} is kept for money.`];
    return cards.has(word.toUpperCase()) ? [`${word} is the card of a customer.`] : [];
  });
