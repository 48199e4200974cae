import { array, boolean, day, dayOrNothing, object, safe, string, whole, type InferType } from './yup.ts';
import { INTERVALS, MOST_PARTS, type Interval, type PlanPart } from '../core/promises/plan.ts';
import type { MoneyItem, PromisedPart, PromiseLine } from '../core/promises/promised.ts';
import { PROMISE_KINDS, type PromiseKind } from '../core/promises/promiseNumber.ts';
import type { Rate } from '../core/rate.ts';
import type { PromiseState } from '../core/promises/state.ts';
import type { OrderInList, OrderView } from './orders.ts';
import type { ChannelMessageView } from './orders.ts';
import type { PartnerOrderView, RelayInList, RelayView } from './relay.ts';
import { recordSchema } from './returns.ts';

/** What a line of a basket has to do with a promise; the server works the figures out again. */
export const promisedSchema = object({
  promiseId: string().uuid().required(),
  number: string().max(20).defined(),
  part: string<PromisedPart>().oneOf(['goods', 'deposit', 'used', 'back', 'fee']).required(),
  position: whole().min(1),
  figures: object({
    unitPrice: safe().required(),
    regular: safe().required(),
    net: safe().required(),
    records: array().of(recordSchema).required(),
  })
    .optional()
    .default(undefined),
});

const interval = string<Interval>().oneOf(Object.keys(INTERVALS) as Interval[]);
const parts = whole().min(1, 'At least one part.').max(MOST_PARTS, `At most ${MOST_PARTS} parts.`);

/** How a layaway is paid off, as it was agreed with the customer. */
export const layawayTermsSchema = object({
  deposit: safe().min(0).required('How much is paid at once?'),
  parts: parts.required(),
  interval: interval.required(),
  firstDay: day().required('When is the first part due?'),
  fee: safe().min(0).required(),
  /** The goods still have to come: nothing is set aside yet. */
  coming: boolean().required(),
  note: string().trim().max(200, 'A note has at most 200 characters.').defined(),
});
export type LayawayWanted = InferType<typeof layawayTermsSchema>;

/** What the shop asks for, as it is set up. */
export const layawayRulesSchema = object({
  leastDeposit: safe().min(0).max(1_000_000, 'At most 100 %.').required('The least deposit is missing.'),
  parts: parts.required('How many parts?'),
  interval: interval.required(),
  fee: safe().min(0).required('The fee is missing.'),
  words: string().trim().max(500, 'At most 500 characters.').defined(),
  /** Where a price of today is lower at the handover of what was promised, it counts. */
  lower: boolean().required(),
  stages: array()
    .of(string().trim().min(1).max(30, 'A word of your own has at most 30 characters.').required())
    .max(12, 'At most 12 words of your own.')
    .required()
    .test('twice', 'Each word of your own once.', (all) => new Set(all).size === (all?.length ?? 0)),
  /** How a fee is taxed that is kept. */
  feeTaxCategoryId: whole().required('How is the fee taxed?'),
});
export type LayawaySettings = InferType<typeof layawayRulesSchema>;

/** Something that happened to a promise. */
export interface PromiseEvent {
  at: string;
  by: string;
  what: string;
  words: string;
  /** The sale with which it happened. */
  saleId: string | null;
  receipt: string | null;
  amount: number | null;
}

/** A promise in the list of what waits. */
export interface PromiseRow {
  id: string;
  kind: PromiseKind;
  number: string;
  state: PromiseState;
  /** How far it is in the shop's own words; empty where nobody has said. */
  stage: string;
  customer: string;
  customerId: number;
  /** What is in it, in words. */
  goods: string;
  madeAt: string;
  total: number;
  held: number;
  /** What of it was paid where it was ordered, and would go back there. */
  heldThere: number;
  /** What the goods that are left come to, with tax. */
  rest: number;
  /** What is to be paid next; nothing where all is paid. */
  next: PlanPart | null;
  overdueDays: number;
  placeId: number;
  place: string;
  /** Where it was placed, if at no till, and what it is called there. */
  placedAt: { name: string; reference: string } | null;
  /** How an order gets to the customer; nothing for a layaway. */
  order: OrderInList | null;
  /** Of a relay, who was asked last, and for when; nothing for others. */
  relay: RelayInList | null;
}

/** Everything about a promise. */
export interface PromiseView extends PromiseRow {
  note: string;
  /** Why it was promised without tax, where it was: it is handed over so. */
  exemption: { reason: string; certificate: string } | null;
  /** Words of the shop's own for how far it is. */
  stages: readonly string[];
  /** The goods are not here yet. */
  coming: boolean;
  fee: number;
  madeBy: string;
  plan: PlanPart[];
  /** All deposits that were ever paid. */
  paid: number;
  due: number;
  /** What is missing of what has to be paid before an order is picked. */
  firstPayment: number;
  /** What its channel was told of it, the latest first. */
  told: ChannelMessageView[];
  lines: PromiseLine[];
  events: PromiseEvent[];
  /** What the customer can be told by. */
  mail: string;
  phone: string;
  /** What deposits and fees are rung up as. */
  depositItem: MoneyItem;
  feeItem: MoneyItem;
  handover: OrderView | null;
  /** Of a relay: who gets what, from whom, and what was said; nothing for others. */
  relay: RelayView | null;
  /** Of an order that a partner has passed on to the shop, what was asked and said; nothing for others. */
  partnerOrder: PartnerOrderView | null;
  /** When some of it leaves, the part of what stays that stays paid. */
  keeps: Rate;
}

/** How the list of promises is asked for. */
export const promiseQuerySchema = object({
  show: string()
    .oneOf(['open', 'attention', 'all'] as const)
    .default('open'),
  find: string().trim().max(100).default(''),
  customer: whole(),
  kind: string<PromiseKind>().oneOf(Object.keys(PROMISE_KINDS) as PromiseKind[]),
  /** Orders of which something is to be picked there. */
  place: whole(),
  /** Orders that were placed at a channel, or that a partner has passed on: `channel:1`, `partner:2`. */
  placedAt: string().matches(/^(channel|partner):\d{1,9}$/, 'A channel or a partner.'),
  /** Made from that day on, and until that day; empty is any. */
  from: dayOrNothing().default(''),
  to: dayOrNothing().default(''),
  page: whole().min(0).default(0),
});
export type PromiseQuery = InferType<typeof promiseQuerySchema>;

export interface PromisePage {
  rows: PromiseRow[];
  count: number;
  /** How many of all want attention today. */
  attention: number;
  /** Where orders are placed beside the tills, and how they are asked for. */
  elsewhere: { value: string; name: string }[];
}

/** What came to pass with a promise, said at a till; of a stage, which one, or that it is in none. */
export const promiseStepSchema = object({
  what: string()
    .oneOf(['arrived', 'told', 'note', 'remind', 'stage'] as const)
    .required(),
  words: string().trim().max(200, 'At most 200 characters.').defined(),
});
export type PromiseStep = InferType<typeof promiseStepSchema>;

export const cancelPromiseSchema = object({
  reason: string().trim().required('Say why.').max(120, 'At most 120 characters.'),
});
