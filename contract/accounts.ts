import { array, boolean, day, object, safe, string, whole, type InferType } from './yup.ts';
import type { AccountItemKind } from '../core/people/accountItemKinds.ts';
import type { ByAge } from '../core/people/accountAge.ts';
import type { BankGuess } from '../core/people/bankLines.ts';
import type { Statement } from '../core/people/statement.ts';

const amount = (words: string) =>
  safe().min(1, words).max(1_000_000_000_000, 'That is too much.').required(words);
const why = () => string().trim().required('Why?').max(200, 'At most 200 characters.');

/**
 * A house account as somebody sets it up or changes it. @property version of what was looked at; nothing for a new
 * one
 */
export const accountSchema = object({
  /** The company of the customer owes, not they themselves. */
  ofCompany: boolean().required(),
  limit: safe()
    .min(0, 'A limit is zero or more.')
    .max(1_000_000_000_000, 'That is too much.')
    .required('Type a limit.'),
  daysToPay: whole().min(0, 'From 0 to 366.').max(366, 'From 0 to 366.').required('From 0 to 366.'),
  blocked: boolean().required(),
  asksFor: string().trim().max(40, 'At most 40 characters.').defined(),
  buyers: array()
    .of(
      object({
        customerId: whole().required(),
        most: safe().min(1, 'Type an amount above zero.').nullable().defined(),
      }),
    )
    .max(200, 'At most 200 buyers.')
    .required(),
  version: whole().nullable().defined(),
});
export type WantedAccount = InferType<typeof accountSchema>;

/** Money that came by bank. */
export const bankPaymentSchema = object({
  amount: amount('How much came?'),
  day: day().required('On which day?'),
  words: string().trim().max(200, 'At most 200 characters.').default(''),
  /** Charges that are paid first. */
  items: array().of(whole().required()).max(500).default([]),
});

/** What will not be paid. */
export const writeOffSchema = object({
  amount: amount('How much?'),
  words: why(),
  items: array().of(whole().required()).max(500).default([]),
});

/** What was owed before the shop began with these books, above zero, or over below. */
export const openingSchema = object({
  amount: safe()
    .required('How much?')
    .test('some', 'How much?', (value) => value !== 0),
  day: day().required('On which day?'),
  words: string().trim().max(200, 'At most 200 characters.').default(''),
});

/** The days of a statement, both included. */
export const statementSchema = object({
  from: day().required('From which day?'),
  to: day()
    .required('Until which day?')
    .test('after', 'The last day is before the first.', function (to) {
      return !to || to >= (this.parent as { from: string }).from;
    }),
  /** For one buyer of a company; nothing for all. */
  buyer: whole()
    .nullable()
    .transform((value: unknown, typed: unknown) => (typed === '' ? null : value))
    .default(null),
});
export type StatementDays = InferType<typeof statementSchema>;

export const ACCOUNT_FILTERS = ['owing', 'overdue', 'over', 'all'] as const;

export const accountListSchema = object({
  find: string().max(120).default(''),
  show: string<(typeof ACCOUNT_FILTERS)[number]>()
    .oneOf([...ACCOUNT_FILTERS])
    .default('owing'),
  page: whole().min(0).max(1_000_000).default(0),
});
export type AccountQuery = InferType<typeof accountListSchema>;

/** A list of lines from the bank, as the bank gives it. */
export const bankListSchema = object({
  csv: string().required('Choose a file.').max(5_000_000, 'The file is too large.'),
});

/** A line of the bank that is booked to an account. */
export const bookLineSchema = object({ accountId: whole().required('To whose account?') });

/** How a shop keeps house accounts. */
export const accountRulesSchema = object({
  limit: safe().min(0, 'A limit is zero or more.').required('Type a limit.'),
  daysToPay: whole().min(0, 'From 0 to 366.').max(366, 'From 0 to 366.').required('From 0 to 366.'),
  sheet: string()
    .oneOf(['A4', 'LETTER'] as const)
    .required(),
  howToPay: string().trim().max(300, 'At most 300 characters.').defined(),
  /** Days overdue after which each reminder goes out. */
  reminders: array()
    .of(whole().min(1, 'At least a day.').max(366, 'At most 366 days.').required())
    .max(5, 'At most five reminders.')
    .required()
    .test('rising', 'Each reminder comes later than the one before.', (days) =>
      days.every((one, at) => at === 0 || one > (days[at - 1] ?? 0)),
    ),
  /** Whether reminders go out every night by themselves. */
  byItself: boolean().required(),
});
export type AccountRules = InferType<typeof accountRulesSchema>;

/** What stands on an account. */
export interface AccountItemView {
  id: number;
  kind: AccountItemKind;
  day: string;
  dueOn: string;
  amount: number;
  /** What of it is open: above zero owed, below over. */
  remaining: number;
  saleId: string | null;
  sale: string | null;
  buyer: string | null;
  reference: string;
  words: string;
  by: string | null;
}

/** A house account with everything that its page shows. */
export interface AccountView {
  id: number;
  /** What whoever pays by bank writes, `A-0007`. */
  number: string;
  customerId: number;
  name: string;
  ofCompany: boolean;
  limit: number;
  daysToPay: number;
  blocked: boolean;
  asksFor: string;
  owed: number;
  held: number;
  ages: ByAge;
  buyers: { customerId: number; name: string; most: number | null }[];
  /** Those that are open first, then the latest. */
  items: AccountItemView[];
  reminders: { step: number; day: string; amount: number }[];
  version: number;
}

/** A house account as lists show it. */
export interface AccountRow {
  id: number;
  number: string;
  customerId: number;
  name: string;
  mail: string;
  limit: number;
  owed: number;
  ages: ByAge;
  blocked: boolean;
  /** The last reminder, if there was one. */
  reminded: { step: number; day: string } | null;
}

export interface AccountPage {
  rows: AccountRow[];
  count: number;
  /** Of all that fit. */
  owed: number;
  ages: ByAge;
}

/** A statement as a screen shows it. */
export interface StatementView {
  account: { id: number; number: string; customerId: number; name: string; mail: string };
  from: string;
  to: string;
  statement: Statement;
}

/** Statements of all who owe, on their way into one file. */
export interface StatementsJob {
  id: string;
  state: 'making' | 'done' | 'failed';
  /** From 0 to 1. */
  progress: number;
  count: number;
  words: string;
}

export interface BankLineView {
  id: number;
  day: string;
  amount: number;
  payer: string;
  words: string;
  state: 'open' | 'booked' | 'dropped';
  /** To whom it was booked. */
  name: string | null;
  /** Whose account it is likely for, and why. */
  guess: BankGuess | null;
}

export const remindSchema = object({ accountId: whole().nullable().default(null) });
