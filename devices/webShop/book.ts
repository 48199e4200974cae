import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** How somebody says they pay. */
export type Paying = 'now' | 'later' | 'fails';

export interface WebLine {
  number: string;
  name: string;
  quantity: number;
  unitPrice: number;
}

/** An order as the web shop has it. */
export interface WebOrder {
  reference: string;
  at: string;
  customer: { name: string; mail: string; phone: string };
  lines: WebLine[];
  collect: { placeId: number; day: string; time: string; collector: string } | null;
  ship: {
    recipient: string;
    street: string;
    postcode: string;
    city: string;
    phone: string;
    wishes: string;
    gift: boolean;
  } | null;
  fee: number;
  total: number;
  trouble: string;
  note: string;
  /** What was paid when it was placed. */
  payment: { reference: string; amount: number } | null;
  /** Payments that came later, and whether the shop has them. */
  later: { reference: string; amount: number; sent: boolean }[];
  /** What the shop calls it, once the shop has it. */
  number: string | null;
  /** How often it was sent. */
  sent: number;
  /** The shop has refused it, for good. */
  refused: boolean;
  cancelling: boolean;
  /** What the shop has told of it, and with which message last. */
  state: string;
  words: string;
  open: number;
  givenBack: number;
  message: number;
  /** What went wrong last. */
  said: string;
}

/** What the web shop keeps: its orders, and where the shop is. */
export interface WebBook {
  next: number;
  key: string;
  orders: WebOrder[];
}

/** The book of the web shop, in a file that is written anew with every change. */
export function openBook(folder: string, key: string): { book: WebBook; keep(): void } {
  mkdirSync(folder, { recursive: true });
  const file = join(folder, 'orders.json');
  let book: WebBook = { next: 1001, key, orders: [] };
  try {
    book = JSON.parse(readFileSync(file, 'utf8')) as WebBook;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
  return {
    book,
    keep() {
      writeFileSync(`${file}.new`, JSON.stringify(book, null, 1));
      renameSync(`${file}.new`, file);
    },
  };
}
