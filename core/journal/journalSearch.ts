import { parseDay } from '../locale.ts';
import { parseMoney, type Money } from '../money.ts';
import { parseReceiptNumber } from './receiptNumber.ts';

/** What somebody looks for in the journal. */
export interface JournalSearch {
  receipt: { till: number; count: number } | null;
  /** A day of the shop's calendar, `YYYY-MM-DD`. */
  day: string | null;
  /** What was paid, in minor units, both included. */
  amount: { least: Money; most: Money } | null;
  /** Of a card or of any number that was paid with. */
  lastFour: string | null;
  /** Words of an item, a serial number, a customer, a reference. */
  words: string[];
}

/** How far "about" reaches: a tenth each way. */
const ABOUT = 10;

/**
 * Reads what was typed into the journal's search: `1-0234`, `2026-03-02` or a day as the shop
 * writes it, `about 40`, `38.20`, `*4242`, or words.
 * Several may stand together; four figures alone may be the last four of a card, an item or a serial number.
 * @param digits of the currency
 */
export function parseJournalSearch(text: string, digits: number): JournalSearch {
  const found: JournalSearch = { receipt: null, day: null, amount: null, lastFour: null, words: [] };
  const parts = text.trim().split(/\s+/).filter(Boolean);
  for (let at = 0; at < parts.length; at++) {
    const part = parts[at] ?? '';
    const next = parseMoney(parts[at + 1] ?? '', digits);
    const about = /^~(.+)$/.exec(part)?.[1];
    if (/^(about|around|ca\.?)$/i.test(part) && next !== null) {
      found.amount = aboutAmount(next);
      at += 1;
    } else if (about !== undefined && parseMoney(about, digits) !== null) {
      found.amount = aboutAmount(parseMoney(about, digits) ?? 0);
    } else readPart(part, digits, found);
  }
  return found;
}

function readPart(part: string, digits: number, found: JournalSearch): void {
  const receipt = parseReceiptNumber(part);
  const day = parseDay(part);
  const amount = /[.,]\d+$/.test(part) ? parseMoney(part, digits) : null;
  const lastFour = /^(?:[*·.x]+)(\d{4})$/i.exec(part)?.[1];
  if (receipt) found.receipt = receipt;
  else if (day !== null) found.day = day;
  else if (lastFour !== undefined) found.lastFour = lastFour;
  else if (amount !== null) found.amount = { least: amount, most: amount };
  else found.words.push(part);
}

const aboutAmount = (amount: Money) => ({
  least: amount - Math.floor(amount / ABOUT),
  most: amount + Math.floor(amount / ABOUT),
});
