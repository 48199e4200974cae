import type { BasketLine, ComesBack } from '../../core/counter/basket.ts';
import type { PromiseChange } from '../../core/counter/promisedLines.ts';
import type { LedgerEntry } from '../../core/books/entries.ts';
import type { Money } from '../../core/money.ts';
import type { PriceRecord } from '../../core/pricing/price.ts';
import type { TaxAmount, TaxMode } from '../../core/pricing/tax.ts';
import type { TenderKind } from '../../core/payment/tenderKinds.ts';
import type { StoredUse } from '../offers/service.ts';

/** A payment with which a sale is finished. */
export interface FinalTender {
  kind: TenderKind;
  typeId: number;
  name: string;
  /** What it pays, with what it gives to a fund. */
  amount: Money;
  handed: Money;
  tip: Money;
  reference: string;
  foreignAmount: Money | null;
  storedValueId: number | null;
  /** What is gone with it of stored value that is used once. */
  lapses?: Money | undefined;
  accountId: number | null;
  paymentTenderId: string | null;
  /** The payment along which it goes back. */
  refunds?: { saleId: string; position: number } | undefined;
  /** Number for store credit, should the customer have none yet. */
  creditNumber?: string | undefined;
  /** Which terminal, kind of stored value or customer the books name. */
  subject: string;
}

/** A line as it is stored. */
export interface LineToFinish extends Pick<
  BasketLine,
  | 'itemId'
  | 'number'
  | 'name'
  | 'unit'
  | 'quantity'
  | 'serial'
  | 'bundle'
  | 'ageChecked'
  | 'storedValue'
  | 'promised'
  | 'account'
> {
  position: number;
  note: string;
  gift: boolean;
  unitPrice: Money;
  regular: Money;
  net: Money;
  records: readonly PriceRecord[];
  taxes: readonly TaxAmount[];
  comesBack: ComesBack | { reason: string; condition: string } | undefined;
  /** Whether stock of it is kept. */
  stocked: boolean;
}

/** A payment as it is stored. */
export interface TenderToFinish extends Omit<FinalTender, 'subject' | 'refunds'> {
  position: number;
  refundsSale: string | null;
  refundsPosition: number | null;
}

/** A sale as the database's `finish_sale` takes it: each field is read there, or by a function that it calls. */
export interface SaleToFinish {
  id: string;
  tillId: number;
  placeId: number;
  staffId: number;
  /** ISO 8601, UTC. */
  at: string;
  businessDate: string;
  currency: string;
  taxMode: TaxMode;
  regular: Money;
  reductions: Money;
  tax: Money;
  total: Money;
  donation: Money;
  fundId: number | null;
  cashRounding: Money;
  note: string;
  customerId: number | null;
  exemptReason: string | null;
  exemptCertificate: string;
  lines: readonly LineToFinish[];
  taxes: readonly (TaxAmount & { position: number })[];
  tenders: readonly TenderToFinish[];
  opensDrawer: boolean;
  /** The request that finishes it, where it is one. */
  asked: { key: string; route: string; hash: string } | null;
  receiptBy: string;
  receiptTo: string;
  offerUses: readonly StoredUse[];
  /** Points of the customer that are given for money off. */
  pointsOff: number;
  kind: 'sale' | 'return' | 'exchange';
  /** What it does to promises: their money, and the goods that leave. */
  promises: readonly (Pick<PromiseChange, 'id' | 'moves'> & { gone: PromiseChange['handed'] })[];
  entries: readonly LedgerEntry[];
}
