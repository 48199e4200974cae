import { readBarcode } from './barcode.ts';
import type { Item } from './item.ts';
import { fold } from '../words.ts';

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
      const plain = fold(code.trim());
      const found = byCode.get(plain);
      if (found) return found;
      for (const { canonical } of readBarcode(plain)) {
        const item = byCode.get(canonical);
        if (item) return item;
      }
      return undefined;
    },
  };
}
