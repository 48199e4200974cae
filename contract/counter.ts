import { array, boolean, lazy, object, string, whole, safe, type InferType } from './yup.ts';
import type { PointsOfSale } from '../core/people/loyalty.ts';
import { MOST_LINES, type Basket } from '../core/counter/basket.ts';
import type { PricedBasket } from '../core/pricing/price.ts';
import { plainNumber } from '../core/giftCards/storedValue.ts';
import { MOST } from '../core/quantity.ts';
import { promisedSchema } from './promises.ts';
import { comesBackSchema } from './returns.ts';

const lineSchema = object({
  id: string().uuid().required(),
  itemId: whole().required(),
  number: string().max(40).defined(),
  name: string().max(120).defined(),
  unit: string().max(12).required(),
  decimals: whole().min(0).max(3).required(),
  taxCategoryId: whole().required(),
  quantity: safe()
    .notOneOf([0])
    .min(0 - MOST)
    .max(MOST)
    .required(),
  // Only money that is used of a promise's deposit, given back or paid out is below zero.
  listPrice: safe()
    .when(['promised', 'account'], ([promised, account], schema) =>
      promised || account ? schema : schema.min(0),
    )
    .required(),
  typedPrice: object({
    unitPrice: safe().min(0).required(),
    reason: string().trim().required('Say why the price is another one.').max(120),
    countersign: string().uuid(),
  })
    .optional()
    .default(undefined),
  serial: string().trim().min(1).max(40, 'A serial number has at most 40 characters.'),
  label: object({ code: string().max(20).required(), amount: safe().min(0).required() })
    .optional()
    .default(undefined),
  storedValue: object({
    number: string().transform(plainNumber).min(4).max(40).required(),
    kind: string()
      .oneOf(['gift-card', 'certificate'] as const)
      .required(),
    topUp: boolean(),
    mail: string().trim().max(200).email('This is no mail address.'),
  })
    .optional()
    .default(undefined),
  promised: promisedSchema.optional().default(undefined),
  account: object({
    accountId: whole().required(),
    name: string().max(120).required(),
    items: array().of(whole().required()).max(500),
  })
    .optional()
    .default(undefined),
  ageChecked: boolean(),
  bundle: string().max(120),
  returnCountersign: string().uuid(),
  comesBack: comesBackSchema.optional().default(undefined),
  swaps: string().uuid(),
  openPriceCountersign: string().uuid(),
  note: string().max(200, 'A note on a line has at most 200 characters.'),
  gift: boolean(),
});

const size = {
  percent: object({
    kind: string()
      .oneOf(['percent'] as const)
      .required(),
    rate: safe().min(1).max(1_000_000).required(),
  }),
  amount: object({
    kind: string()
      .oneOf(['amount'] as const)
      .required(),
    amount: safe().min(1).required(),
  }),
  target: object({
    kind: string()
      .oneOf(['target'] as const)
      .required(),
    price: safe().min(0).required(),
  }),
};

/** How much a discount takes off. */
const sizeSchema = lazy((value: unknown) => {
  const kind = typeof value === 'object' && value !== null && 'kind' in value ? String(value.kind) : '';
  return size[kind as keyof typeof size] ?? size.percent;
});

const discountSchema = object({
  id: string().uuid().required(),
  lineIds: array().of(string().uuid().required()).min(1).max(MOST_LINES).nullable().defined(),
  size: sizeSchema,
  reason: string().trim().required('Say why: the reason is printed.').max(120),
  presetId: whole(),
  countersign: string().uuid(),
});

export const basketSchema = object({
  id: string().uuid().required(),
  lines: array().of(lineSchema).max(MOST_LINES, `A basket holds at most ${MOST_LINES} lines.`).required(),
  customer: object({ id: whole().required(), name: string().max(120).required() })
    .optional()
    .default(undefined),
  discounts: array().of(discountSchema).max(MOST_LINES).optional().default(undefined),
  codes: array()
    .of(
      object({
        code: string().max(40).required(),
        offerId: whole().required(),
        single: boolean().required(),
      }),
    )
    .max(50, 'At most 50 codes on a basket.')
    .optional()
    .default(undefined),
  rewards: array().of(whole().required()).max(50).optional().default(undefined),
  pointsOff: whole().min(1).max(1_000_000_000),
  roundUp: object({
    fundId: whole().required(),
    fund: string().max(80).required(),
    amount: safe().min(1).required(),
  })
    .optional()
    .default(undefined),
  paymentBegan: boolean(),
  refundCountersign: string().uuid(),
  note: string().max(500, 'A note on a sale has at most 500 characters.'),
  exemption: object({
    reason: string().trim().required('Say why the sale is without tax.').max(120),
    certificate: string().trim().max(60, 'A certificate number has at most 60 characters.').defined(),
    countersign: string().uuid(),
  })
    .optional()
    .default(undefined),
});

/** Stores the basket of a till; `revision` is the one that the browser has seen. */
export const saveBasketSchema = object({
  basket: basketSchema.required(),
  revision: whole().min(0).required(),
});
export type SaveBasket = InferType<typeof saveBasketSchema>;

/** The stored basket of a till. */
export interface StoredBasket {
  basket: Basket;
  revision: number;
  /** The key of the write that stored it, where a window of the till did: its answer may not have come back. */
  savedBy?: string | null;
}

/** Finishes a sale with cash for what is left to pay. The basket's id is the key: asking twice finishes once. */
export const finishSaleSchema = object({
  basket: basketSchema.required(),
  /** What the screen showed; when the server finds another figure, nothing is taken. */
  expectedTotal: safe().min(0).required(),
  /** Cash that was handed over. */
  handed: safe().min(0).required(),
});
export type FinishSale = InferType<typeof finishSaleSchema>;

export interface FinishedSale {
  id: string;
  /** Receipt number as printed, `till-number`. */
  number: string;
  total: number;
  /** What was given to a fund, contained in what was paid. */
  donation: number;
  /** What cash was rounded by. */
  cashRounding: number;
  handed: number;
  change: number;
  tenders: { name: string; amount: number; handed: number; tip: number }[];
  /** What it did to the points of its customer; nothing where it gave none. */
  points: PointsOfSale | null;
}

/** Holds the last uses of offers, and points, for a basket that is about to be paid. */
export const claimSchema = object({
  basket: basketSchema.required(),
  /** Uses of limited offers that the screen shows. */
  offers: array(object({ offerId: whole().min(1).required(), uses: whole().min(1).required() }))
    .max(1000)
    .default([]),
  /** Points that the screen shows as taken. */
  points: whole().min(0).max(1_000_000_000).default(0),
});

/** What comes with the problem `offer-used-up`: codes that open nothing any more, and whether points are gone. */
export interface UsedUpProblem {
  codes: string[];
  points: boolean;
}

/** What comes with the problem `figures-differ`. */
export interface FigureProblem {
  basket: Basket;
  priced: PricedBasket;
}
