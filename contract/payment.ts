import { array, boolean, object, string, whole, safe, type InferType } from './yup.ts';
import type { TenderState } from '../core/payment/tender.ts';
import { TENDER_KINDS, type TenderKind } from '../core/payment/tenderKinds.ts';
import type { TenderType } from '../core/payment/tenderType.ts';
import { CASH_COINS } from '../core/payment/cash.ts';
import { ROUND_UP_STEPS } from '../core/payment/roundUp.ts';
import { MOST_TIPS } from '../core/payment/tips.ts';
import type { PricedBasket } from '../core/pricing/price.ts';
import { CURRENCIES } from '../core/payment/currency.ts';
import { WHOLE } from '../core/rate.ts';
import type { TerminalRow } from './cardPayments.ts';
import { basketSchema, type FinishedSale } from './counter.ts';

/** Takes one payment for a basket. Its id is the key: asking twice takes once. */
export const takeTenderSchema = object({
  id: string().uuid().required(),
  basket: basketSchema.required(),
  /** What the screen showed; when the server finds another figure, nothing is taken. */
  expectedTotal: safe().min(0).required(),
  typeId: whole().required(),
  /** What is to be taken; of cash, what was handed over; of foreign cash, in its own minor units. */
  amount: safe().min(1, 'Type an amount above zero.').required('Type an amount.'),
  reference: string().trim().max(60, 'At most 60 characters.').default(''),
  /** Number of a gift card or certificate. */
  number: string().trim().max(40).default(''),
  terminalId: whole().nullable().default(null),
  /** The customer is not there: the number is keyed on the terminal. */
  notPresent: boolean().default(false),
  cardOnFileId: whole().nullable().default(null),
  /** The house account that is charged. */
  accountId: whole().nullable().default(null),
  /** Who approved that it goes over its limit. */
  countersign: string().uuid(),
  /** Whether the terminal may ask for a round-up. */
  askRoundUp: boolean().default(true),
});
export type TakeTender = InferType<typeof takeTenderSchema>;

/** Where a refund goes: along a payment of the sale, in cash, as store credit, or onto the customer's house account. */
const refundTo = string()
  .oneOf(['tender', 'cash', 'store-credit', 'account'] as const)
  .required();

/** Gives money back for a basket. Each part's id is the key: asking twice gives once. */
export const giveRefundSchema = object({
  basket: basketSchema.required(),
  expectedTotal: safe().max(-1).required(),
  parts: array()
    .of(
      object({
        id: string().uuid().required(),
        to: refundTo,
        saleId: string().uuid().nullable().default(null),
        position: whole().nullable().default(null),
        amount: safe().min(1, 'Type an amount above zero.').required('Type an amount.'),
      }),
    )
    .min(1)
    .max(20)
    .required(),
  countersign: string().uuid(),
});
export type GiveRefund = InferType<typeof giveRefundSchema>;

/** Asks how a refund goes back. */
export const planRefundSchema = object({
  basket: basketSchema.required(),
  expectedTotal: safe().max(-1).required(),
});

/** How a refund goes back by the shop's rules. */
export interface RefundPlan {
  /** What is still to be given back, above zero. */
  amount: number;
  parts: {
    to: 'tender' | 'cash' | 'store-credit' | 'account';
    saleId: string | null;
    position: number | null;
    name: string;
    amount: number;
  }[];
  /** What may be given in cash without an approval. */
  mostCash: number;
  /** What may go to store credit only, because it has no receipt. */
  creditOnly: number;
  /** Whose house account it may go onto, if the customer has one. */
  account: string | null;
}

/** One payment as the till shows it. */
export interface TenderView {
  id: string;
  typeId: number;
  kind: TenderKind;
  /** What it is, with the last four characters where it has a number. */
  name: string;
  state: TenderState;
  amount: number;
  handed: number;
  tip: number;
  roundUp: number;
  /** What the device says. */
  words: string;
  /** Of stored value: what is left on it after this payment. */
  leftOn: number | null;
  terminalId: number | null;
  /** The house account that is charged. */
  accountId: number | null;
  /** A card whose token may be left on file, if the customer agrees. */
  canBeKept: boolean;
  /** Money goes back: its amounts are below zero. */
  refund: boolean;
}

/** How far the payment of a basket is. */
export interface PaymentView {
  basketId: string;
  tenders: TenderView[];
  finished: FinishedSale | null;
  /** While money is held: when payment began, and what the basket came to then unless it was changed since. */
  begun: { at: string; priced: PricedBasket | null } | null;
}

/** Leaves a card on file, as its holder agreed. */
export const keepCardSchema = object({
  customerId: whole().required(),
  agreed: boolean().oneOf([true], 'Ask the customer first: a card is kept only where they agree.').required(),
});

const word = (label: string, most: number) =>
  string()
    .trim()
    .required(`${label} is missing.`)
    .max(most, ({ max }) => `At most ${max} characters.`);

export const pairTerminalSchema = object({
  name: word('The name of the terminal', 40),
  code: string()
    .trim()
    .required('Type the code that the terminal shows.')
    .matches(/^\d{6}$/, 'The code has 6 digits.'),
  tillId: whole().required('Choose a till.'),
});

export const tillTerminalSchema = object({
  tillId: whole().required(),
  terminalId: whole().required(),
  offered: boolean().required(),
});

export const tenderTypeSchema = object({
  name: word('The name', 40),
  kind: string()
    .oneOf(Object.keys(TENDER_KINDS) as TenderKind[])
    .required('Choose what it is.'),
  active: boolean().required(),
  reference: string().trim().max(40, 'At most 40 characters.').default(''),
  counted: boolean().required(),
  opensDrawer: boolean().required(),
  foreignCurrency: string()
    .oneOf([...CURRENCIES.map(({ code }) => code), ''])
    .default('')
    .when('kind', { is: 'foreign-cash', then: (field) => field.required('Choose the currency.') }),
  /** Millionths of the shop's currency for one of the other. */
  foreignRate: safe()
    .nullable()
    .default(null)
    .when('kind', {
      is: 'foreign-cash',
      then: (field) => field.nonNullable('What is one worth?').min(1, 'What is one worth?'),
    }),
});
export type NewTenderType = InferType<typeof tenderTypeSchema>;

export const tenderOrderSchema = object({ ids: string().defined() });

export const paymentSettingsSchema = object({
  roundUpStep: safe()
    .oneOf([0, ...ROUND_UP_STEPS], 'Choose a step.')
    .required(),
  fund: string().trim().max(80).default(''),
  /** Parts per million. */
  tipRates: array()
    .of(safe().min(1, 'A tip is above zero.').max(WHOLE, 'At most the whole.').required())
    .max(MOST_TIPS, `At most ${MOST_TIPS} tips.`)
    .default([]),
  cashRounding: safe()
    .oneOf([0, ...CASH_COINS], 'Choose a coin.')
    .required(),
  giftCardMonths: whole().min(1, 'At least one month.').max(600).nullable().default(null),
  dormantMonths: whole().min(1, 'At least one month.').max(600).nullable().default(null),
});
export type PaymentSettings = InferType<typeof paymentSettingsSchema>;

/** How the shop takes money, for Setup. @property seen the last change of Setup that this holds */
export interface PaymentSetup {
  seen: number;
  settings: PaymentSettings;
  types: TenderType[];
  terminals: TerminalRow[];
}

/** What a till has to know to take payments. */
export interface PaymentFacts {
  types: TenderType[];
  terminals: { id: number; name: string }[];
  roundUpStep: number;
  funds: { id: number; name: string }[];
  tipRates: number[];
  cashRounding: number;
  giftCardItemId: number | null;
  giftCardMonths: number | null;
  dormantMonths: number | null;
}

/** A card that a customer has left on file. */
export interface CardOnFile {
  id: number;
  brand: string;
  lastFour: string;
}

/** How a receipt goes out. */
export const sendReceiptSchema = object({
  by: string()
    .oneOf(['print', 'mail', 'text', 'gift', 'none'] as const)
    .required(),
  to: string()
    .trim()
    .max(120)
    .default('')
    .when('by', {
      is: 'mail',
      then: (field) => field.required('Type a mail address.').email('This is no mail address.'),
    })
    .when('by', {
      is: 'text',
      then: (field) =>
        field
          .required('Type a telephone number.')
          .matches(/^[+\d][\d\s()-]{4,20}$/, 'This is no telephone number.'),
    }),
  /** Remember it for the customer of the sale. */
  remember: boolean().default(false),
});
export type SendReceipt = InferType<typeof sendReceiptSchema>;
