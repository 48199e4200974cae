import { STOCK_REASONS, type StockReason } from '../core/goods/stockReasons.ts';
import { dayOrNothing, object, string, whole, type InferType } from './yup.ts';

/** How many moves stand on a page, and how many are counted at most. */
export const MOVES_PAGE = 100;
export const MOST_MOVES = 10_000;

/** Which moves of stock are shown: of all items, newest first. */
export const stockMovesSchema = object({
  /** Words, number or code of the item. */
  find: string().max(120).default(''),
  place: whole().default(0),
  reason: string<StockReason | ''>()
    .oneOf(['', ...STOCK_REASONS])
    .default(''),
  /** What came from a supplier, or went back. */
  supplier: whole().default(0),
  staff: whole().default(0),
  /** Days as the shop's clock has them, both included. */
  from: dayOrNothing().default(''),
  to: dayOrNothing().default(''),
  page: whole()
    .min(0)
    .max(MOST_MOVES / MOVES_PAGE - 1)
    .default(0),
});
export type StockMovesQuery = InferType<typeof stockMovesSchema>;

/** What moved stock: it is shown where its own page is. */
export type MoveOrigin =
  | { kind: 'sale'; id: string; number: string }
  | { kind: 'promise'; id: string }
  | { kind: 'delivery' | 'supplier-return' | 'count'; id: number; number: number }
  | { kind: 'transfer'; id: number }
  | null;

export interface StockMoveRow {
  id: number;
  at: string;
  place: string;
  itemId: number;
  number: string;
  name: string;
  unit: string;
  quantity: number;
  reason: StockReason;
  words: string;
  by: string;
  approvedBy: string;
  /** What it cost, plain; null where it is not known, or for those who see no costs. */
  cost: number | null;
  origin: MoveOrigin;
}

export interface StockMovesPage {
  rows: StockMoveRow[];
  /** At most `MOST_MOVES`. */
  count: number;
  places: { id: number; name: string }[];
  suppliers: { id: number; name: string }[];
  staff: { id: number; name: string }[];
}
