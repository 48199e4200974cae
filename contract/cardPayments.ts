import type { TenderState } from '../core/payment/tender.ts';

/** A card payment in the list. */
export interface CardRow {
  id: string;
  at: string;
  till: number;
  terminal: string;
  state: TenderState;
  amount: number;
  tip: number;
  roundUp: number;
  brand: string;
  lastFour: string;
  cardKind: string;
  entry: string;
  approval: string;
  words: string;
  saleId: string | null;
  sale: string | null;
  settled: string | null;
}

export interface CardPage {
  rows: CardRow[];
  count: number;
  total: number;
}

/** So many settlements are told at once. */
export const SETTLEMENTS_PAGE = 50;

export interface SettlementRow {
  id: number;
  terminal: string;
  batch: string;
  at: string;
  gross: number;
  fees: number;
  count: number;
  /** Payments in it that the till does not know. */
  unknown: number;
}

export interface TerminalRow {
  id: number;
  serial: string;
  name: string;
  active: boolean;
  tillIds: number[];
  unsettled: number;
}
