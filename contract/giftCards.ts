import { boolean, dayOrNothing, object, safe, string, whole, type InferType } from './yup.ts';
import type { StoredValueKind, StoredValueState } from '../core/giftCards/storedValue.ts';

/** A gift card, certificate or store credit as the till sees it. */
export interface StoredValueView {
  id: number;
  /** Whole only for who typed it or may see whole ones; else the last four characters. */
  number: string;
  kind: StoredValueKind;
  state: StoredValueState;
  balance: number;
  held: number;
  singleUse: boolean;
  expiresOn: string | null;
  customer: string | null;
  mail: string;
  issuedAt: string;
  usedAt: string;
  /** Nobody has used it for as long as the shop has set. */
  dormant: boolean;
  /** Why it cannot be used today, or nothing. */
  problem: string | null;
}

export interface StoredValueMove {
  kind: string;
  amount: number;
  at: string;
  by: string | null;
  saleId: string | null;
  sale: string | null;
}

export interface StoredValuePage {
  rows: StoredValueView[];
  count: number;
  /** What is owed for all that are listed. */
  outstanding: number;
}

/** Asks what is on a card. */
export const enquirySchema = object({
  number: string().trim().required('Scan or type the number.').max(40),
});

/** What the list of gift cards is narrowed to; part of a number is found by who may see whole ones. */
export const findValuesSchema = object({
  find: string().trim().max(80).default(''),
  kind: string().trim().max(20).default(''),
  state: string().trim().max(20).default(''),
  page: whole().min(0).default(0),
});

export const moveCardSchema = object({
  number: string().trim().max(40).default(''),
});

export const importSchema = object({
  /** Comma-separated values: number, amount, and optionally expiry (2027-12-31) and `once`. */
  csv: string().required('Choose a file or paste its lines.').max(500_000),
});

export const newCertificateSchema = object({
  number: string().trim().required('Type the number on the certificate.').min(4).max(40),
  amount: safe().min(1, 'Type what it is worth.').required('Type what it is worth.'),
  expiresOn: dayOrNothing('Type the day as 2026-12-31.').default(''),
  singleUse: boolean().default(false),
});
export type NewCertificate = InferType<typeof newCertificateSchema>;
