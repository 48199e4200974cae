import { indexCodes, type CodeIndex } from './codes.ts';
import type { Item } from './item.ts';
import { fold, wordsOf } from '../words.ts';

/** Finds items by words, numbers and codes while somebody types. */
export interface SearchIndex {
  /** How many items are in it. */
  size: number;
  /**
   * Items of which every typed word begins a word of the name, number, category or a code.
   * An exact number or code comes first, then names that begin with the text, then the given order.
   * @param most how many items at most
   */
  search(text: string, most?: number): Item[];
}

/** Prefixes up to this length have their items listed in advance; longer ones have few words each. */
const SHORT = 3;

/** How many matches are looked at in order to bring the best ones to the front. */
const CONSIDERED = 200;

/** So many items are taken in between two pauses. */
const PIECE = 2000;

/** Builds the index at once. */
export function buildSearchIndex(items: readonly Item[], codes = indexCodes(items)): SearchIndex {
  const pieces = indexInPieces(items, codes);
  for (;;) {
    const { done, value } = pieces.next();
    if (done) return value;
  }
}

/**
 * Builds the index, with pauses in which something else can be done. Words are sorted, so a typed prefix is a range
 * of words; each word lists its items in ascending order. Items that fit the rarest typed word are tested against the
 * ranges of the others.
 */
export function* indexInPieces(
  items: readonly Item[],
  codes: CodeIndex,
): Generator<undefined, SearchIndex, undefined> {
  const itemsOfWord = new Map<string, Listed>();
  const itemsOfPrefix = new Map<string, number[]>();
  const wordsOfCategory = new Map<string, string[]>();

  function listed(word: string): Listed {
    const known = itemsOfWord.get(word);
    if (known) return known;
    const prefixes = Array.from({ length: Math.min(SHORT, word.length) }, (_, at) => {
      const prefix = word.slice(0, at + 1);
      const items = itemsOfPrefix.get(prefix) ?? [];
      itemsOfPrefix.set(prefix, items);
      return items;
    });
    const fresh = { items: [], prefixes };
    itemsOfWord.set(word, fresh);
    return fresh;
  }

  for (const [at, item] of items.entries()) {
    if (at % PIECE === PIECE - 1) yield;
    const category = wordsOfCategory.get(item.category) ?? wordsOf(item.category);
    wordsOfCategory.set(item.category, category);
    const number = fold(item.number);
    const found = [...wordsOf(item.name), ...category, ...wordsOf(number), number, ...item.codes.map(fold)];
    for (const word of found) {
      const { items: inWord, prefixes } = listed(word);
      addOnce(inWord, at);
      for (const inPrefix of prefixes) addOnce(inPrefix, at);
    }
  }

  yield;
  const words = [...itemsOfWord.keys()].sort();
  yield;
  const lists = words.map((word) => Uint32Array.from(itemsOfWord.get(word)?.items ?? []));
  yield;
  const wordsOfItem = wordNumbersPerItem(lists, items.length);
  yield;
  const short = new Map([...itemsOfPrefix].map(([prefix, list]) => [prefix, Uint32Array.from(list)]));

  function rangeOf(prefix: string): Range {
    return { from: lowerBound(words, prefix), to: lowerBound(words, `${prefix}\uffff`) };
  }

  function candidates(prefix: string, { from, to }: Range): Iterable<number> {
    if (prefix.length <= SHORT) return short.get(prefix) ?? new Uint32Array();
    if (to - from === 1) return lists[from] ?? new Uint32Array();
    return to - from <= FEW ? together(lists.slice(from, to)) : merge(lists, from, to);
  }

  function fits(item: number, ranges: readonly Range[]): boolean {
    const start = wordsOfItem.starts[item] ?? 0;
    const end = wordsOfItem.starts[item + 1] ?? 0;
    return ranges.every(({ from, to }) => {
      for (let at = start; at < end; at++) {
        const word = wordsOfItem.numbers[at] ?? 0;
        if (word >= from && word < to) return true;
      }
      return false;
    });
  }

  function matches(prefixes: readonly string[], most: number): number[] {
    const ranges = prefixes.map(rangeOf);
    if (ranges.some(({ from, to }) => from >= to)) return [];
    const weights = ranges.map((range, at) => weightOf(prefixes[at] ?? '', range));
    const rarest = weights.indexOf(Math.min(...weights));
    const list = candidates(prefixes[rarest] ?? '', ranges[rarest] ?? { from: 0, to: 0 });
    const others = ranges.filter((_, at) => at !== rarest);
    const found: number[] = [];
    for (const item of list) {
      if (others.length === 0 || fits(item, others)) found.push(item);
      if (found.length === most) break;
    }
    return found;
  }

  function weightOf(prefix: string, { from, to }: Range): number {
    if (prefix.length <= SHORT) return short.get(prefix)?.length ?? 0;
    let weight = 0;
    for (let at = from; at < to; at++) weight += lists[at]?.length ?? 0;
    return weight;
  }

  return {
    size: items.length,
    search(text, most = 50) {
      const prefixes = [...new Set(wordsOf(text))];
      if (prefixes.length === 0) return [];
      const start = fold(text.trim());
      const first: Item[] = [];
      const second: Item[] = [];
      const exact = codes.recognise(text);
      if (exact) first.push(exact);
      for (const at of matches(prefixes, Math.max(most, CONSIDERED))) {
        const item = items[at];
        if (!item || item === exact) continue;
        if (fold(item.name).startsWith(start)) first.push(item);
        else second.push(item);
      }
      return [...first, ...second].slice(0, most);
    },
  };
}

/** The items that have a word, and the lists of its first letters that they are in as well. */
interface Listed {
  items: number[];
  prefixes: number[][];
}

/** Adds an item to an ascending list, once. */
function addOnce(items: number[], item: number): void {
  if (items.at(-1) !== item) items.push(item);
}

interface Range {
  from: number;
  to: number;
}

function lowerBound(words: readonly string[], word: string): number {
  let low = 0;
  let high = words.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((words[middle] ?? '') < word) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Which words each item has, as one flat array with a start per item. */
function wordNumbersPerItem(lists: readonly Uint32Array[], size: number) {
  const starts = new Uint32Array(size + 1);
  for (const list of lists) for (const item of list) starts[item + 1] = (starts[item + 1] ?? 0) + 1;
  for (let at = 0; at < size; at++) starts[at + 1] = (starts[at + 1] ?? 0) + (starts[at] ?? 0);
  const numbers = new Uint32Array(starts[size] ?? 0);
  const next = starts.slice();
  lists.forEach((list, word) => {
    for (const item of list) {
      numbers[next[item] ?? 0] = word;
      next[item] = (next[item] ?? 0) + 1;
    }
  });
  return { starts, numbers };
}

/** Up to so many lists are read side by side, which can stop early; more are merged at once. */
const FEW = 16;

/** The ascending union of a few lists, one item after the other. */
function* together(lists: readonly Uint32Array[]): Generator<number> {
  const next = lists.map(() => 0);
  for (;;) {
    let least = Infinity;
    for (let at = 0; at < lists.length; at++) {
      const item = lists[at]?.[next[at] ?? 0];
      if (item !== undefined && item < least) least = item;
    }
    if (least === Infinity) return;
    for (let at = 0; at < lists.length; at++) {
      if (lists[at]?.[next[at] ?? 0] === least) next[at] = (next[at] ?? 0) + 1;
    }
    yield least;
  }
}

/** The ascending union of some words' items. */
function merge(lists: readonly Uint32Array[], from: number, to: number): Uint32Array {
  let size = 0;
  for (let at = from; at < to; at++) size += lists[at]?.length ?? 0;
  const all = new Uint32Array(size);
  let end = 0;
  for (let at = from; at < to; at++) {
    const list = lists[at];
    if (!list) continue;
    all.set(list, end);
    end += list.length;
  }
  all.sort();
  return all.filter((item, at) => at === 0 || item !== all[at - 1]);
}
