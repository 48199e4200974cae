import { array, boolean, day, object, safe, string, whole, type InferType } from './yup.ts';
import type { CollectTime } from '../core/promises/collecting.ts';
import type { Partner, RelaySaying, RelayState } from '../core/promises/relay.ts';

const text = (most: number) => string().trim().max(most, `At most ${most} characters.`).defined();
const needed = (most: number, words: string) => text(most).required(words);

/** What is wanted in words, and who gets it. */
const wanted = {
  recipient: needed(80, 'Who gets it?'),
  street: needed(120, 'Street and number are missing.'),
  postcode: needed(12, 'The postcode is missing.'),
  city: needed(80, 'The town is missing.'),
  phone: text(40),
  wishes: text(200),
  card: text(300),
  goods: needed(500, 'What is wanted?'),
};

/** To whom something is passed on, and for when. */
const sending = {
  partnerId: whole().required('To which partner?'),
  day: day().required('On which day?'),
  /** What of the price is the partner's. */
  part: safe().min(0).required('What is the partner’s?'),
};
export const relayAgainSchema = object(sending);
export type RelayAgain = InferType<typeof relayAgainSchema>;

/** An order that is passed on. */
export const relaySchema = object({
  ...sending,
  ...wanted,
  /** What the customer pays before tax; with tax inside, with it. */
  price: safe().min(1, 'What does it cost?').required('What does it cost?'),
});
export type RelayWanted = InferType<typeof relaySchema>;

export const placeRelaySchema = object({
  customerId: whole().required('Whose order is it? Put the customer on with F4.'),
  terms: relaySchema.required(),
});

export const relayReplySchema = object({ words: needed(500, 'What is said?') });

export const closeAlertSchema = object({ opened: boolean().required() });

/** A partner as a till needs them, with what their clock shows. */
export interface PartnerAtTill extends Partner {
  now: CollectTime;
}

/** A message between us and a partner. */
export interface RelayMessageView {
  id: number;
  kind: RelaySaying;
  words: string;
  at: string;
  /** Whether it goes from here to the partner, and who said it here, if somebody did. */
  ours: boolean;
  by: string | null;
  /** Of what goes out: whether the hub has it. */
  sent: boolean;
}

/** One time that it was sent, with what was said. */
export interface RelayTryView {
  id: string;
  partner: string;
  partnerId: number;
  day: string;
  part: number;
  state: RelayState | 'withdrawn';
  madeAt: string;
  by: string;
  /** Why the hub has not got it. */
  trouble: string;
  messages: RelayMessageView[];
}

/** What a relay in a list says: who was asked last, and for when. */
export interface RelayInList {
  state: RelayState;
  partner: string;
  day: string;
}

/** What a relay has beside what all promises have. */
export interface RelayView extends RelayInList {
  recipient: string;
  street: string;
  postcode: string;
  city: string;
  phone: string;
  wishes: string;
  card: string;
  goods: string;
  /** The last one first. */
  tries: RelayTryView[];
}

/** An order that a partner passes to the shop, as the hub brings it. */
export const partnerOrderSchema = object({
  reference: needed(60, 'What is it called at the hub?'),
  number: needed(30, 'Which number has it?'),
  /** The code of the partner. */
  partner: needed(12, 'From whom is it?'),
  day: day().required('On which day?'),
  ...wanted,
  /** What the shop gets before tax; with tax inside, with it. */
  part: safe().min(1, 'What does the shop get?').required('What does the shop get?'),
});
export type PartnerOrder = InferType<typeof partnerOrderSchema>;

/** How a partner who has passed an order on is answered. */
export const acceptOrderSchema = object({ words: text(500) });

/** What an order has that a partner has passed on, beside what all orders have. */
export interface PartnerOrderView {
  partner: string;
  day: string;
  goods: string;
  card: string;
  messages: RelayMessageView[];
}

/** Something that a partner said and nobody has looked at. */
export interface RelayAlert {
  id: number;
  promiseId: string;
  number: string;
  partner: string;
  kind: RelaySaying;
  words: string;
  at: string;
}

const time = () => string().matches(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time looks like 14:30.');

/** A partner as Setup has it. */
export const partnerSchema = object({
  code: string()
    .trim()
    .uppercase()
    .matches(/^[A-Z0-9]{2,12}$/, 'Two to twelve letters and digits.')
    .required('What is its code?'),
  name: needed(80, 'What is it called?'),
  city: text(80),
  phone: text(40),
  postcodes: array().of(string().trim().min(1).max(12).required()).max(200).required(),
  timezone: string()
    .required('In which time zone?')
    .test('zone', 'There is no such time zone.', (zone) => {
      try {
        return Boolean(zone && new Intl.DateTimeFormat('en', { timeZone: zone }));
      } catch {
        return false;
      }
    }),
  cutOffs: array().of(time().nullable().defined()).length(7).required(),
  takes: text(200),
  rate: safe().min(0).max(1_000_000, 'At most 100 %.').required('What is its part?'),
  active: boolean().required(),
});
export type PartnerSettings = InferType<typeof partnerSchema>;

/**
 * What is owed to a partner of a month: its parts of what it delivered, less what it owes for what it passed to the
 * shop.
 */
export interface PartnerMonth {
  partnerId: number;
  partner: string;
  /** `YYYY-MM` */
  month: string;
  delivered: number;
  passed: number;
  /** Below zero, the partner owes so much. */
  amount: number;
  /** When it was paid; nothing while it is owed. */
  settledAt: string | null;
}
export const settleMonthSchema = object({
  partnerId: whole().required(),
  month: string()
    .matches(/^\d{4}-(0[1-9]|1[0-2])$/, 'A month looks like 2026-03.')
    .required(),
});
