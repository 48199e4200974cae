/** The receipt number as printed: the till's number and its own gapless count, e.g. `2-0418`. */
export function receiptNumber(till: number, count: number): string {
  return `${till}-${String(count).padStart(4, '0')}`;
}

/** Reads a receipt number. @returns `null` when the text is none */
export function parseReceiptNumber(text: string): { till: number; count: number } | null {
  const match = /^(\d{1,3})-(\d{4,9})$/.exec(text.trim());
  return match ? { till: Number(match[1]), count: Number(match[2]) } : null;
}
