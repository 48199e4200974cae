import { array, boolean, object, safe, string, whole, type InferType } from './yup.ts';
import type { OrderPay } from '../core/promises/order.ts';
import { ORDER_PAYS } from '../core/promises/order.ts';
import type { CollectTime } from '../core/promises/collecting.ts';
import type { PromiseState } from '../core/promises/state.ts';
import type { Rate } from '../core/rate.ts';
import { newCustomerSchema } from './people.ts';
import { collectSchema, shipSchema } from './orders.ts';

const text = (most: number) => string().trim().max(most, `At most ${most} characters.`).defined();

/** Goods of an order that is placed elsewhere: whole pieces, in the smallest unit of the currency. */
const goods = {
  number: text(40).required('Which item?'),
  quantity: whole().min(1, 'At least one piece.').max(1_000, 'At most 1,000 pieces.').required('How many?'),
};
const handover = { collect: collectSchema.nullable().defined(), ship: shipSchema.nullable().defined() };

/** What an order would come to. */
export const quoteSchema = object({
  lines: array().of(object(goods)).min(1, 'Nothing is ordered.').max(200).required(),
  /** Where it would be shipped; nothing where it is collected. */
  postcode: string().trim().max(12).nullable().defined(),
});
export type QuoteWanted = InferType<typeof quoteSchema>;

export interface Quote {
  lines: { number: string; name: string; quantity: number; unitPrice: number; amount: number }[];
  fee: number;
  /** With tax. */
  total: number;
  /** What is to be paid before it is picked. */
  firstPayment: number;
  /** Where it can be collected, and when first. */
  places: { id: number; name: string; street: string; city: string; first: CollectTime | null }[];
}

/** A payment that a customer made where they ordered. */
export const channelPaymentSchema = object({
  reference: text(60).required('What is the payment called?'),
  amount: safe().min(1, 'A payment is above zero.').required(),
});
export type ChannelPayment = InferType<typeof channelPaymentSchema>;

/** An order that was placed elsewhere. */
export const channelOrderSchema = object({
  /** What the channel calls it: its letters, a dash, and a number, with a digit at least. */
  reference: string()
    .trim()
    .matches(/^[A-Z]{2,5}-(?=[A-Z]*\d)[\dA-Z]{1,20}$/, 'A number looks like WEB-1001.')
    .required('What is the order called?'),
  customer: newCustomerSchema.pick(['name', 'mail', 'phone']).required(),
  lines: array()
    .of(object({ ...goods, unitPrice: safe().min(0).required('At what price?') }))
    .min(1, 'Nothing is ordered.')
    .max(200)
    .required(),
  ...handover,
  /** What shipping costs, as the customer saw it. */
  fee: safe().min(0).required(),
  /** With tax, as the customer saw it. */
  total: safe().min(0).required(),
  payment: channelPaymentSchema.nullable().default(null),
  /** Why nothing was paid, where somebody tried. */
  trouble: text(120).default(''),
  note: text(200).default(''),
});
export type ChannelOrder = InferType<typeof channelOrderSchema>;

/** How an order stands, as the channel is told. */
export interface ChannelState {
  reference: string;
  /** The shop's own number. */
  number: string;
  state: PromiseState;
  /** The state in words. */
  words: string;
  /** What is left to pay, with tax. */
  open: number;
  /** What of the payments there is to go back, or has. */
  givenBack: number;
}

/** A place where people order, as Setup has it. */
export const channelSchema = object({
  name: string().trim().max(60, 'At most 60 characters.').required('What is it called?'),
  prefix: string()
    .trim()
    .uppercase()
    .matches(/^[A-Z]{2,5}$/, 'Two to five letters.')
    .required('What do its numbers begin with?'),
  pay: string<OrderPay>()
    .oneOf(Object.keys(ORDER_PAYS) as OrderPay[])
    .required(),
  leastDeposit: safe().min(0).max(1_000_000, 'At most 100 %.').required('The least deposit is missing.'),
  active: boolean().required(),
});
export type ChannelSettings = InferType<typeof channelSchema>;

/** The key that a channel sends with: it is made where it is shown, and kept as its hash only. */
export const channelKeySchema = object({
  key: string()
    .matches(/^[\da-f]{64}$/, 'A key has 64 digits and letters from a to f.')
    .required(),
});
export const newChannelSchema = channelSchema.concat(channelKeySchema);
export type NewChannel = InferType<typeof newChannelSchema>;

/** Where a channel wants to be told how its orders stand. */
export const channelAddressSchema = object({
  address: string()
    .trim()
    .max(200)
    .matches(/^https?:\/\/\S+$/, { message: 'An address begins with http.', excludeEmptyString: true })
    .defined(),
});

export interface ChannelFacts {
  id: number;
  name: string;
  prefix: string;
  keyEnd: string;
  pay: OrderPay;
  leastDeposit: Rate;
  address: string;
  active: boolean;
  /** What customers have paid there and the shop has not got yet. */
  owed: number;
  /** How many changes it has not taken yet, and why the last try failed. */
  untold: number;
  trouble: string;
}

/** What a channel has paid out, and what it kept of it. */
export const channelSettlementSchema = object({
  gross: safe().min(1, 'How much was settled?').required('How much was settled?'),
  fees: safe()
    .min(0, 'From nothing on.')
    .required('What did it keep?')
    .test('less', 'It keeps no more than was settled.', (fees, { parent }) => {
      const { gross } = parent as { gross: number };
      return (fees ?? 0) <= gross;
    }),
});
export type ChannelSettlement = InferType<typeof channelSettlementSchema>;
