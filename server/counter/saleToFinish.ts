import type { BasketLine, ComesBack } from '../../core/counter/basket.ts';
import type { LedgerEntry } from '../../core/ledger/entries.ts';
import type { Money } from '../../core/money.ts';
import type { PriceRecord } from '../../core/offers/price.ts';
import type { TaxAmount, TaxMode } from '../../core/offers/tax.ts';
import type { Asked } from '../http/write.ts';
import type { StoredUse } from '../offers/service.ts';
import type { FinalTender } from './storeSale.ts';

/** A line as it is stored. */
export interface LineToFinish extends Pick<
  BasketLine,
  'itemId' | 'number' | 'name' | 'unit' | 'quantity' | 'serial' | 'bundle' | 'ageChecked' | 'storedValue'
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
  asked: Asked | null;
  receiptBy: string;
  receiptTo: string;
  offerUses: readonly StoredUse[];
  kind: 'sale' | 'return' | 'exchange';
  entries: readonly LedgerEntry[];
}
