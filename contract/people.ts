import type { PromiseRow } from './promises.ts';
import { array, boolean, dayOrNothing, object, safe, string, whole, type InferType } from './yup.ts';
import type { GroupPrice } from '../core/counter/toPrice.ts';
import type { StoredValueKind } from '../core/giftCards/storedValue.ts';
import type { DirectorySort } from '../core/people/directory.ts';
import { DIRECTORY_SORTS } from '../core/people/directory.ts';
import type { AccountFacts } from '../core/people/account.ts';
import type { Ending } from '../core/people/loyalty.ts';
import type { PointsMove } from './points.ts';
import type { RecordChange } from '../core/recordChange.ts';
import { isBirthday, MOST_ADDRESSES, MOST_TAGS } from '../core/people/record.ts';

const text = (most: number) => string().trim().max(most, `At most ${most} characters.`).defined();

/** One of several that stand in one cell of a list, with semicolons between them. */
const listed = (what: string, most: number) =>
  string()
    .trim()
    .max(most, `${what} has at most ${most} characters.`)
    .matches(/^[^;]*$/, `${what} has no semicolon.`);

/** What is asked of everybody. */
const factsOfCustomer = {
  name: string().trim().required('What is the name?').max(120, 'A name has at most 120 characters.'),
  company: text(120),
  phone: text(40),
  mail: text(120).matches(/^$|^\S+@\S+\.\S+$/, 'A mail address looks like name@place.example.'),
  birthMonth: whole().min(1, 'A month is 1 to 12.').max(12, 'A month is 1 to 12.').nullable().defined(),
  birthDay: whole()
    .min(1, 'A day is 1 to 31.')
    .max(31, 'A day is 1 to 31.')
    .nullable()
    .defined()
    .test('both', 'A birthday has a month and a day.', function (day) {
      return (day === null) === ((this.parent as { birthMonth: number | null }).birthMonth === null);
    })
    .test('in the calendar', 'This month has no such day.', function (day) {
      const { birthMonth } = this.parent as { birthMonth: number | null };
      return !day || !birthMonth || isBirthday(birthMonth, day);
    }),
  note: string().trim().max(500, 'A note has at most 500 characters.').defined(),
};

/** A customer created on the spot: a name and one way to reach them are enough. */
export const newCustomerSchema = object({
  ...factsOfCustomer,
  /** The card that is given to them; empty where there is none. */
  card: string().trim().max(100).default(''),
  /** Whether they were created although somebody like them is known. */
  anyway: string()
    .oneOf(['yes', 'no'] as const)
    .required(),
});
export type NewCustomer = InferType<typeof newCustomerSchema>;

const addressSchema = object({
  recipient: text(80),
  street: text(120),
  postcode: text(12),
  city: text(80),
}).test('something', 'An address needs something to write on it.', ({ recipient, street, postcode, city }) =>
  Boolean(recipient || street || postcode || city),
);

/** What is known of a customer, as somebody has changed it. */
export const customerRecordSchema = object({
  ...factsOfCustomer,
  news: boolean().required(),
  newsOn: dayOrNothing().defined(),
  newsHow: text(120),
  groups: array().of(string().required().max(60)).max(100).required(),
  tags: array()
    .of(listed('A tag', 40).required('A tag has words.'))
    .max(MOST_TAGS, `At most ${MOST_TAGS} tags.`)
    .required(),
  addresses: array()
    .of(addressSchema.required())
    .max(MOST_ADDRESSES, `At most ${MOST_ADDRESSES} addresses.`)
    .required(),
});
export type WantedRecord = InferType<typeof customerRecordSchema>;

/** Changes a record. @property version the one that was looked at */
export const changeCustomerSchema = object({
  record: customerRecordSchema.required(),
  version: whole().required(),
});

/** Gives somebody a card. */
export const giveCardSchema = object({
  code: string().trim().max(100).required('Scan the new card.'),
  /** Whether the cards that they had are lost: their codes stop at once. */
  replaces: boolean().required(),
});

/** Makes two records one. */
export const mergeSchema = object({
  /** The record that is found no more by itself. */
  goes: whole().required('Who is the same person?'),
  /** What is kept of both. */
  record: customerRecordSchema.required(),
  /** Both as they were looked at. */
  version: whole().required(),
  goesVersion: whole().required(),
});

/** A group: with a rule it fills itself. */
export const groupSchema = object({
  name: listed('A name', 60).required('What is the group called?'),
  rule: object({
    spent: safe().min(1, 'How much has to be spent?').required(),
    months: whole().min(1, 'From 1 to 60 months.').max(60, 'From 1 to 60 months.').required(),
  })
    .nullable()
    .defined(),
});
export type WantedGroup = InferType<typeof groupSchema>;

/** A group as it is to be. @property seen as it was looked at */
export const changeGroupSchema = groupSchema.concat(object({ seen: groupSchema.required() }));
export type ChangedGroup = InferType<typeof changeGroupSchema>;

export interface CustomerGroup extends WantedGroup {
  id: number;
  count: number;
  /** The day on which its rule was last followed. */
  filledOn: string | null;
}

const flag = () => string().oneOf(['', 'yes']).default('');
/** Which customers a list shows. */
export const directorySchema = object({
  find: string().max(120).default(''),
  group: whole().default(0),
  tag: string().max(40).default(''),
  owes: flag(),
  credit: flag(),
  /** May get news. */
  news: flag(),
  pointsFrom: safe().nullable().transform(emptyAsNull).default(null),
  pointsTo: safe().nullable().transform(emptyAsNull).default(null),
  /** Born in this month; 0 for any. */
  born: whole().min(0).max(12).default(0),
  /** Not seen since this day. */
  notSince: dayOrNothing().default(''),
  sort: string<DirectorySort>()
    .oneOf(Object.keys(DIRECTORY_SORTS) as DirectorySort[])
    .default('name'),
  page: whole().min(0).max(1_000_000).default(0),
});
export type DirectoryQuery = InferType<typeof directorySchema>;

function emptyAsNull(value: unknown, typed: unknown): unknown {
  return typed === '' ? null : value;
}

/** A customer as the directory lists them. */
export interface DirectoryRow extends FoundCustomer {
  tags: string[];
  points: number;
  owes: number;
  credit: number;
  seenAt: string | null;
}

export interface DirectoryPage {
  rows: DirectoryRow[];
  count: number;
  /** Tags that are in use, for the filter. */
  tags: string[];
  groups: CustomerGroup[];
}

export interface CustomerCard {
  code: string;
  addedAt: string | null;
  /** When it stopped, if it has. */
  stoppedAt: string | null;
  /** It was made for their telephone: there is no plastic card. */
  forPhone: boolean;
}

/** Everything that the page of a customer shows. */
export interface CustomerPage {
  panel: CustomerPanel;
  record: WantedRecord;
  version: number;
  /** Groups that they are in by a rule, and why. */
  byRule: { name: string; why: string }[];
  cards: CustomerCard[];
  moves: PointsMove[];
  values: { id: number; number: string; kind: StoredValueKind; balance: number; state: string }[];
  onFile: { id: number; brand: string; lastFour: string }[];
  /** What they bought by month, oldest first. */
  months: { month: string; visits: number; total: number }[];
  changes: (RecordChange & { at: string; who: string })[];
  addedAt: string;
  seenAt: string | null;
  /** Others whose record came to this one. */
  mergedFrom: string[];
  /** Why they cannot be forgotten yet, in words; empty where they can. */
  open: string[];
}

/** A customer as a list shows them. */
export interface FoundCustomer {
  id: number;
  name: string;
  company: string;
  phone: string;
  mail: string;
  groups: string[];
}

/** Who is known already, with the reason: comes with the problem `customer-known`. */
export interface LikelySame {
  customer: FoundCustomer;
  why: string;
}

/** A sale that a customer came for. */
export interface Visit {
  saleId: string;
  number: string;
  finishedAt: string;
  total: number;
  lines: { itemId: number; name: string; quantity: number }[];
}

/** What the Counter shows of a customer. */
export interface CustomerPanel extends FoundCustomer {
  birthMonth: number | null;
  birthDay: number | null;
  note: string;
  /** What they owe the shop; below zero the shop owes them. */
  owes: number;
  /** What the shop holds for them as store credit. */
  credit: number;
  /** House accounts that they may charge: their own first. */
  accounts: AccountFacts[];
  visits: Visit[];
  /** What waits for them. */
  promises: PromiseRow[];
  /** How often they came. */
  visitCount: number;
  groupPrices: GroupPrice[];
  points: number;
  /** Of their points, those that end soon. */
  ending: Ending | null;
  /** How often they have used offers that have a limit for each customer. */
  offerUses: { offerId: number; uses: number }[];
}
