import { array, boolean, object, string, whole, safe } from './yup.ts';
import { CONDITIONS, RETURN_WAYS, type Condition, type ReturnWay } from '../core/journal/returns.ts';
import type { FixedFigures, PriceRecord } from '../core/pricing/price.ts';
import { MOST, type Quantity } from '../core/quantity.ts';

const taxSchema = object({
  rateId: whole().required(),
  name: string().max(60).defined(),
  rate: safe().required(),
  base: safe().required(),
  tax: safe().required(),
});

export const recordSchema = object({
  kind: string<PriceRecord['kind']>().required(),
  amount: safe().required(),
  why: string().max(200).defined(),
  discountId: string(),
  offerId: whole(),
});

/** Why goods come back, what becomes of them, and from which sale; the server works the figures out again. */
export const comesBackSchema = object({
  reason: string().trim().required('Say why it comes back.').max(120, 'At most 120 characters.'),
  condition: string()
    .oneOf(Object.keys(CONDITIONS) as Condition[])
    .required('What becomes of the goods?'),
  sale: object({
    saleId: string().uuid().required(),
    receipt: string().max(20).defined(),
    position: whole().min(1).required(),
    way: string()
      .oneOf(['share', 're-price'] as const)
      .required(),
    figures: object({
      unitPrice: safe().required(),
      regular: safe().required(),
      net: safe().required(),
      records: array().of(recordSchema).required(),
      taxes: array().of(taxSchema).required(),
    }).required(),
    late: boolean().required(),
    countersign: string().uuid(),
  })
    .optional()
    .default(undefined),
});

/** A line of a sale as it may come back. */
export interface ReturnableLine {
  position: number;
  itemId: number;
  number: string;
  name: string;
  unit: string;
  decimals: number;
  taxCategoryId: number;
  unitPrice: number;
  quantity: Quantity;
  net: number;
  /** So much has not come back yet. */
  left: Quantity;
  serial: string | null;
  /** Comes back whole or not at all. */
  whole: boolean;
  /** Why it cannot come back. */
  why: string;
}

export interface Returnable {
  saleId: string;
  receipt: string;
  soldAt: string;
  /** The time for returns has passed. */
  late: boolean;
  way: ReturnWay;
  voided: boolean;
  customer: { id: number; name: string } | null;
  lines: ReturnableLine[];
}

export const refundPartsSchema = object({
  parts: array()
    .of(
      object({
        position: whole().min(1).required(),
        quantity: safe().min(1).max(MOST).required(),
      }),
    )
    .min(1, 'Choose what comes back.')
    .max(500)
    .required(),
});

/** What would be refunded; where a person may choose, both ways. */
export interface RefundQuote {
  way: Exclude<ReturnWay, 'ask'>;
  chosen: { position: number; figures: FixedFigures }[];
  other: { position: number; figures: FixedFigures }[] | null;
  /** Where all of it is swapped within its family: what was paid for it. */
  swap: { position: number; figures: FixedFigures }[];
}

export const RETURN_WAY_WORDS: Readonly<Record<(typeof RETURN_WAYS)[number], string>> = {
  share: 'What was paid for the goods',
  're-price': 'What was paid less what the kept goods cost alone',
  ask: 'The cashier chooses',
};

/** How often a customer brought goods back without a receipt. */
export interface WithoutReceipt {
  count: number;
  amount: number;
  days: number;
  /** So often or more, and the till warns. */
  warning: number;
}
