import { readBarcode } from './barcode.ts';
import type { Item } from './item.ts';
import { fold } from '../words.ts';

/**
 * The spellings of a code that was read or typed, as they are compared with what is kept, the likeliest first: as it
 * is, without its capitals and accents, and as the barcodes that its digits can be.
 */
export function spellings(code: string): string[] {
  const bare = code.trim();
  const barcodes = readBarcode(bare).map(({ canonical }) => canonical);
  return [...new Set([bare, bare.toLowerCase(), fold(bare), ...barcodes])];
}

/** Whether a code means the thing that has some codes and a number. */
export function means(code: string, thing: { number: string; codes: readonly string[] }): boolean {
  const kept = new Set([thing.number, ...thing.codes].map(fold));
  return spellings(code).some((spelling) => kept.has(spelling));
}

/** Recognises items by exactly their number or code, in any spelling of a barcode. */
export interface CodeIndex {
  recognise(code: string): Item | undefined;
}

export function indexCodes(items: readonly Item[]): CodeIndex {
  const byCode = new Map<string, Item>();
  for (const item of items) {
    byCode.set(fold(item.number), item);
    for (const code of item.codes) byCode.set(fold(code), item);
  }
  return {
    recognise(code) {
      for (const spelling of spellings(code)) {
        const item = byCode.get(spelling);
        if (item) return item;
      }
      return undefined;
    },
  };
}
