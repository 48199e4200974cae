import { array, boolean, day, number, object, safe, string, whole, type InferType } from './yup.ts';
import type { Collecting, OrderPay, OrderPlace, OrderRules, Shipping } from '../core/promises/order.ts';
import { ORDER_PAYS } from '../core/promises/order.ts';
import type { Source } from '../core/promises/sources.ts';
import type { PromiseState } from '../core/promises/state.ts';
import { WAYS, type Way } from '../core/promises/ways.ts';

const time = () => string().matches(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time looks like 14:30.');
const text = (most: number) => string().trim().max(most, `At most ${most} characters.`).defined();
const needed = (most: number, words: string) => text(most).required(words);

/** How the goods of a line get to the customer, and where they come from. */
const wayOfLine = object({
  lineId: string().uuid().required(),
  way: string<Way>()
    .oneOf(Object.keys(WAYS) as Way[])
    .required(),
  /** Where they are picked; what no place has is waited for at the last one. */
  parts: array()
    .of(object({ placeId: whole().required(), quantity: safe().min(1).required() }))
    .max(20)
    .required(),
  /** Units that no place has yet. */
  missing: safe().min(0).required(),
});

export const collectSchema = object({
  placeId: whole().required('Where are the goods collected?'),
  day: day().required('On which day?'),
  time: time().required('At what time?'),
  collector: text(80),
});
export type CollectWanted = InferType<typeof collectSchema>;

export const shipSchema = object({
  recipient: needed(80, 'Who gets the parcel?'),
  street: needed(120, 'Street and number are missing.'),
  postcode: needed(12, 'The postcode is missing.'),
  city: needed(80, 'The town is missing.'),
  phone: text(40),
  wishes: text(200),
  gift: boolean().required(),
});
export type ShipWanted = InferType<typeof shipSchema>;

/** An order as it is placed at a till. */
export const orderTermsSchema = object({
  lines: array().of(wayOfLine).min(1).max(500).required(),
  collect: collectSchema.nullable().defined(),
  ship: shipSchema.nullable().defined(),
  /** What shipping costs, as the screen showed it. */
  fee: safe().min(0).required(),
  deposit: safe().min(0).required('How much is paid at once?'),
  note: text(200),
});
export type OrderWanted = InferType<typeof orderTermsSchema>;

/** What changes about the handover of an order. */
export const handoverChangeSchema = object({
  /** Of what was looked at. */
  version: whole().required(),
  collect: collectSchema.nullable().defined(),
  ship: shipSchema.nullable().defined(),
});
export type HandoverChange = InferType<typeof handoverChangeSchema>;

/** What comes to pass with an order at a place. */
export const orderStepSchema = object({
  what: string()
    .oneOf(['pick', 'source', 'send', 'arrived'] as const)
    .required(),
  /** Which line is picked, or picked elsewhere; without one all that is picked at the place was found. */
  position: whole().min(1),
  /** How much of it was found; the rest is short. */
  found: safe().min(0),
  /** Where all was found, where a line is picked instead, or from where goods are sent. */
  placeId: whole(),
});
export type OrderStep = InferType<typeof orderStepSchema>;

/** Why an order goes on without what was to be paid first, and who has approved it. */
export const excusedSchema = object({
  reason: string().trim().required('Say why.').max(120, 'At most 120 characters.'),
  countersign: string().uuid(),
});
export type ExcusedPayment = InferType<typeof excusedSchema>;

const zone = object({
  name: needed(40, 'The zone needs a name.'),
  postcodes: array().of(string().trim().min(1).max(12).required()).max(200).required(),
  steps: array()
    .of(
      object({
        upTo: whole().min(1, 'A weight is above zero.').required('Up to which weight?'),
        fee: safe().min(0).required('What does it cost?'),
      }),
    )
    .min(1, 'Say what it costs up to which weight.')
    .max(20)
    .required(),
});

/** How the shop takes orders. */
export const orderRulesSchema = object({
  pay: string<OrderPay>()
    .oneOf(Object.keys(ORDER_PAYS) as OrderPay[])
    .required(),
  leastDeposit: safe().min(0).max(1_000_000, 'At most 100 %.').required('The least deposit is missing.'),
  leadMinutes: whole().min(0).max(43_200, 'At most 30 days.').required('How long does it take?'),
  usualWeight: whole().min(0).max(1_000_000).required('What does an item usually weigh?'),
  zones: array()
    .of(zone)
    .max(30)
    .required()
    .test(
      'steps-rise',
      'Weights go up from step to step.',
      (zones) =>
        zones?.every(({ steps }) =>
          steps?.every(({ upTo }, at) => at === 0 || upTo > (steps[at - 1]?.upTo ?? 0)),
        ) ?? true,
    ),
  /** How the fee of shipping is taxed. */
  shippingTaxCategoryId: whole().required('How is shipping taxed?'),
});
export type OrderSettings = InferType<typeof orderRulesSchema>;

/** Where a place is, and when it is open. */
export const placeDetailsSchema = object({
  street: text(120),
  postcode: text(12),
  city: text(80),
  latitude: number().min(-90, 'From -90 to 90.').max(90, 'From -90 to 90.').nullable().defined(),
  longitude: number()
    .min(-180, 'From -180 to 180.')
    .max(180, 'From -180 to 180.')
    .nullable()
    .defined()
    .test('both', 'Latitude and longitude belong together.', (value, { parent }) => {
      const { latitude } = parent as { latitude: number | null };
      return (value === null) === (latitude === null);
    }),
  /** From Monday to Sunday; an empty list is at any time. */
  hours: array()
    .of(
      object({ from: time().required(), to: time().required() })
        .nullable()
        .defined()
        .test('from-to', 'A place closes after it opens.', (open) => !open || open.from < open.to),
    )
    .test('week', 'A week has seven days.', (hours) => hours?.length === 0 || hours?.length === 7)
    .required(),
});
export type PlaceDetails = InferType<typeof placeDetailsSchema>;

/** A parcel, and what the carrier calls it. */
export interface ParcelView {
  id: string;
  state: 'waiting' | 'labelled';
  tracking: string | null;
  /** Grams. */
  weight: number;
  askedAt: string;
  /** Why the carrier has not answered yet. */
  trouble: string;
}

/** A change of state on its way to a channel. */
export interface ChannelMessageView {
  state: PromiseState;
  at: string;
  toldAt: string | null;
  tries: number;
  trouble: string;
}

/** What an order has beside what all promises have. */
export interface OrderView {
  /** How often where, when and to whom was said; whoever changes it says what they have looked at. */
  version: number;
  collect: Collecting | null;
  ship: Shipping | null;
  parcels: ParcelView[];
}

/** What an order in a list says of its handover. */
export interface OrderInList {
  collect: Pick<Collecting, 'place' | 'day' | 'time'> | null;
  /** Who gets the parcel. */
  recipient: string;
  /** Something that has not left is to be shipped. */
  ships: boolean;
}

/** What places have of the goods of a basket, and how orders are taken: what a till needs to place one. */
export interface OrderFacts {
  rules: OrderRules;
  places: OrderPlace[];
  /** By item, what can be sold where. */
  stock: { itemId: number; stocked: boolean; weight: number | null; sources: Source[] }[];
  shippingItem: { itemId: number; number: string; unit: string; taxCategoryId: number };
}

/** Which items an order is to have. */
export const orderFactsQuerySchema = object({
  items: string()
    .matches(/^(\d{1,9}(,\d{1,9}){0,499})?$/)
    .default(''),
});
