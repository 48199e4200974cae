import { RETURN_WAYS, type ReturnWay } from '../core/journal/returns.ts';
import {
  array,
  boolean,
  lazy,
  object,
  string,
  whole,
  day,
  type AnyObjectSchema,
  type InferType,
} from './yup.ts';
import type { Offer, OfferRule } from '../core/offers/offer.ts';
import type { RehearsalSums } from '../core/offers/rehearse.ts';
import { rateOf, WHOLE } from '../core/rate.ts';

/** Whether an offer is being written, applies, or is over for good. */
export type OfferState = 'draft' | 'live' | 'ended';

/** An offer as the shop keeps it. */
export interface KeptOffer extends Offer {
  /** How a refund is worked out when goods come back that it reduced. */
  onReturn: ReturnWay;
  state: OfferState;
  /** How often it was written; whoever changes it says what they have looked at. */
  version: number;
  /** Who wrote it last. */
  by: string;
  /** How often it has applied. */
  used: number;
  /** How many codes open it. */
  codes: number;
}

/** How often an offer with a limit has applied, and what baskets that are being paid hold of it. */
export interface OfferCount {
  offerId: number;
  used: number;
  claims: { basketId: string; uses: number }[];
}

const money = (wrong: string) => whole().max(Number.MAX_SAFE_INTEGER).min(1, wrong).required(wrong);
const rate = (wrong = 'Type a percentage, for example 10.') =>
  whole().min(1, wrong).max(WHOLE, 'At most 100 %.').required(wrong);
const count = (wrong: string) => whole().min(1, wrong).max(999, 'At most 999.').required(wrong);

const goodsSchema = object({
  itemIds: array().of(whole().required()).max(200, 'At most 200 items.').required(),
  categories: array().of(string().max(60).required()).max(60, 'At most 60 categories.').required(),
});

/** Chooses a schema by the word in `kind`. */
function byKind(schemas: Readonly<Record<string, AnyObjectSchema>>) {
  return lazy((value: unknown): AnyObjectSchema => {
    const kind = typeof value === 'object' && value !== null && 'kind' in value ? String(value.kind) : '';
    const schema = schemas[kind] ?? Object.values(schemas)[0];
    if (!schema) throw new Error('there is no schema to choose from');
    return schema;
  });
}

const kindOf = <K extends string>(kind: K) =>
  string()
    .oneOf([kind] as const)
    .required();

const percentOff = object({ kind: kindOf('percent'), rate: rate() });
const amountOff = object({ kind: kindOf('amount'), amount: money('Type an amount.') });
const priceOff = object({
  kind: kindOf('price'),
  price: whole().min(0, 'A price is not below zero.').required('Type the price.'),
});
const off = byKind({ percent: percentOff, amount: amountOff });

type SpendTier = Extract<OfferRule, { kind: 'spend' }>['tiers'][number];

/** What a step takes off where so much is spent. */
const spendOff = (gives: SpendTier['off'], spent: number): number =>
  gives.kind === 'percent' ? rateOf(spent, gives.rate) : gives.amount;

/** Whether something rises from one tier to the next. */
const rises = (values: readonly number[]) =>
  values.every((value, at) => at === 0 || value > (values[at - 1] ?? 0));

const ruleSchema = byKind({
  each: object({
    kind: kindOf('each'),
    goods: goodsSchema,
    off: byKind({ percent: percentOff, amount: amountOff, price: priceOff }),
  }),
  together: object({
    kind: kindOf('together'),
    groups: array()
      .of(object({ goods: goodsSchema, count: count('How many of them?') }))
      .min(1)
      .max(5, 'At most five groups.')
      .required(),
    reward: byKind({
      cheapest: object({ kind: kindOf('cheapest'), count: count('How many of them?'), rate: rate() }),
      percent: object({
        kind: kindOf('percent'),
        rates: array()
          .of(whole().min(0).max(WHOLE, 'At most 100 %.').required('Type a percentage, for example 10.'))
          .required(),
      }),
      amount: amountOff,
      price: priceOff,
    }),
  }).test('reward', 'The reward is more than the combination has.', function (rule: unknown) {
    const { groups, reward: kept } = rule as Extract<OfferRule, { kind: 'together' }>;
    const size = groups.reduce((whole, group) => whole + group.count, 0);
    if (kept.kind === 'cheapest' && kept.count > size)
      return this.createError({
        path: `${this.path}.reward.count`,
        message: `A combination has ${size} units.`,
      });
    if (
      kept.kind === 'percent' &&
      (kept.rates.length !== groups.length || kept.rates.every((one) => one === 0))
    )
      return this.createError({
        path: `${this.path}.reward.rates`,
        message: 'Say what at least one group is reduced by.',
      });
    return true;
  }),
  quantity: object({
    kind: kindOf('quantity'),
    goods: goodsSchema,
    tiers: array()
      .of(object({ from: count('From how many on?'), rate: rate() }))
      .min(1)
      .max(5, 'At most five steps.')
      .required()
      .test(
        'rising',
        'Each step needs more units than the one before, and gives more.',
        (tiers) =>
          rises((tiers ?? []).map(({ from }) => from)) && rises((tiers ?? []).map(({ rate: part }) => part)),
      ),
  }),
  spend: object({
    kind: kindOf('spend'),
    goods: goodsSchema,
    tiers: array()
      .of(object({ from: money('From what amount on?'), off }))
      .min(1)
      .max(5, 'At most five steps.')
      .required()
      .test('rising', 'Each step asks for more than the one before.', (tiers) =>
        rises((tiers ?? []).map(({ from }) => from)),
      )
      .test('giving', 'Each step takes off more than the one before does at that amount.', (tiers) =>
        ((tiers ?? []) as SpendTier[]).every(
          ({ from, off: gives }, at, all) =>
            at === 0 || spendOff(gives, from) > spendOff((all[at - 1] as SpendTier).off, from),
        ),
      ),
  }),
});

const limit = () => whole().min(1, 'At least once.').max(1_000_000).nullable().defined();
const dayOrNull = () => day('A day, please.').nullable().defined();
const time = () =>
  string()
    .matches(/^([01]\d|2[0-3]):[0-5]\d$|^24:00$/, 'A time such as 09:30.')
    .required();

/** An offer as it is written. */
export const offerSchema = object({
  name: string()
    .trim()
    .required('Name it: the name is printed as the reason.')
    .max(60, 'At most 60 characters.'),
  rule: ruleSchema,
  combines: boolean().required(),
  conditions: object({
    from: dayOrNull(),
    to: dayOrNull().test('order', 'It ends before it begins.', function (to) {
      const { from } = this.parent as { from: string | null };
      return !from || !to || from <= to;
    }),
    weekdays: array().of(whole().min(1).max(7).required()).max(7).required(),
    hours: object({
      from: time(),
      /** Before the first: on the next day. */
      to: time().test('order', 'The hours end when they begin.', function (to) {
        return (this.parent as { from: string }).from !== to;
      }),
    })
      .nullable()
      .defined()
      .default(null),
    placeIds: array().of(whole().required()).max(50).required(),
    groups: array().of(string().max(60).required()).max(20).required(),
    minimum: whole().min(0, 'Not below zero.').max(Number.MAX_SAFE_INTEGER).required('0 asks for nothing.'),
  }),
  limits: object({ perSale: limit(), perCustomer: limit(), total: limit() }),
  needs: string()
    .oneOf(['nothing', 'code', 'points'] as const)
    .required(),
  /** How a refund is worked out when goods come back that it reduced. */
  onReturn: string().oneOf(RETURN_WAYS).default('share'),
  points: whole()
    .min(0)
    .max(10_000_000)
    .required()
    .test('points', 'How many points does it cost?', function (points) {
      return ((this.parent as { needs: string }).needs === 'points') === points > 0;
    }),
});
/** What an offer is made of; its rule is one of the kinds that the schema knows. */
export type OfferDraft = Omit<Offer, 'id'> & { onReturn?: ReturnWay };

export const offerStateSchema = object({
  state: string()
    .oneOf(['draft', 'live', 'ended'] as const)
    .required(),
  version: whole().required(),
});

/** Writes an offer anew. @property version of what was looked at */
export const changeOfferSchema = object({ offer: offerSchema.required(), version: whole().required() });

/** Codes for an offer: one that is written, or a series that each open it once. */
export const newCodesSchema = object({
  code: string()
    .trim()
    .uppercase()
    .matches(/^[A-Z0-9-]{4,40}$/, {
      message: '4 to 40 letters, figures or hyphens.',
      excludeEmptyString: true,
    })
    .defined(),
  count: whole().min(0).max(5000, 'At most 5,000 at a time.').required(),
});
export type NewCodes = InferType<typeof newCodesSchema>;

export interface OfferCode {
  code: string;
  single: boolean;
  used: number;
}

/** A code as a till asks for it. */
export interface FoundCode {
  code: string;
  offerId: number;
  offer: string;
  single: boolean;
}

/** Runs a draft over past baskets. */
export const rehearsalSchema = object({
  offer: offerSchema.required(),
  /** The offer that the draft would replace, if it has been kept. */
  offerId: whole().nullable().defined(),
  from: day('A day, please.').required('From which day on?'),
  to: day('A day, please.').required('Until which day?'),
});

/** What a rehearsal has found so far. */
export interface Rehearsal {
  id: string;
  state: 'running' | 'done' | 'cancelled' | 'failed';
  /** Baskets in all and looked at. */
  baskets: number;
  done: number;
  findings: RehearsalFindings;
}

/** What it has found, as lists. */
export interface RehearsalFindings extends Omit<RehearsalSums, 'days' | 'others'> {
  days: { day: string; applied: number; cost: number }[];
  /** Other offers that give more or less with it. */
  others: { offerId: number; name: string; before: number; after: number }[];
}
