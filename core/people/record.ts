import { formatCount } from '../locale.ts';
import { changesBetween, type FactsInWords, type RecordChange } from '../recordChange.ts';
import type { CustomerFacts } from './customer.ts';

/** Where somebody lives or works. */
export interface CustomerAddress {
  recipient: string;
  street: string;
  postcode: string;
  city: string;
}

/** Most addresses and tags that are kept of somebody. */
export const MOST_ADDRESSES = 5;
export const MOST_TAGS = 12;

/** What the shop knows of a customer, as it is typed. */
export interface CustomerRecord extends CustomerFacts {
  birthMonth: number | null;
  birthDay: number | null;
  note: string;
  /** Whether they agreed to get news, since when (`2026-03-02`, or nothing), and how they said so. */
  news: boolean;
  newsOn: string;
  newsHow: string;
  /** Groups that somebody put them into; those with a rule fill themselves. */
  groups: readonly string[];
  tags: readonly string[];
  addresses: readonly CustomerAddress[];
}

/** How somebody may want their receipts, in words. */
export const RECEIPT_WAYS = { print: 'on paper', mail: 'by mail', text: 'by text', none: 'none' } as const;
export type ReceiptWay = keyof typeof RECEIPT_WAYS;

/** Somebody of whom nothing is known yet. */
export const NOTHING_KNOWN: CustomerRecord = {
  name: '',
  company: '',
  phone: '',
  mail: '',
  birthMonth: null,
  birthDay: null,
  note: '',
  news: false,
  newsOn: '',
  newsHow: '',
  groups: [],
  tags: [],
  addresses: [],
};

const two = (figure: number) => String(figure).padStart(2, '0');

/** A birthday as it is written in lists: `03-14`, or nothing. */
export const birthdayText = ({
  birthMonth,
  birthDay,
}: Pick<CustomerRecord, 'birthMonth' | 'birthDay'>): string =>
  birthMonth === null || birthDay === null ? '' : `${two(birthMonth)}-${two(birthDay)}`;

/** How long each month is in a leap year. */
export const DAYS_OF_MONTH = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** Whether a day can be a birthday: there is no 31 April. */
export const isBirthday = (month: number, day: number): boolean =>
  day >= 1 && day <= (DAYS_OF_MONTH[month - 1] ?? 0);

/** A birthday as a list has it. @returns `null` where it is none; both parts `null` where nothing is written */
export function readBirthday(text: string): Pick<CustomerRecord, 'birthMonth' | 'birthDay'> | null {
  if (text.trim() === '') return { birthMonth: null, birthDay: null };
  const [, month, day] = /^(?:\d{4}-)?(\d{1,2})-(\d{1,2})$/.exec(text.trim()) ?? [];
  const [birthMonth, birthDay] = [Number(month), Number(day)];
  return isBirthday(birthMonth, birthDay) ? { birthMonth, birthDay } : null;
}

const addressLine = ({ recipient, street, postcode, city }: CustomerAddress): string =>
  [recipient, street, [postcode, city].filter(Boolean).join(' ')].filter(Boolean).join(', ');

function newsWords({ news, newsOn, newsHow }: CustomerRecord): string {
  if (!news) return 'no';
  return ['yes', newsOn && `since ${newsOn}`, newsHow].filter(Boolean).join(', ');
}

/** What is known of somebody, each fact with what it is called on the screen. */
const inWords = (record: CustomerRecord): FactsInWords => [
  ['Name', record.name],
  ['Company or school', record.company],
  ['Phone', record.phone],
  ['Mail', record.mail],
  ['Birthday', birthdayText(record)],
  ['Note', record.note],
  ['News', newsWords(record)],
  ['Groups', record.groups.join(', ')],
  ['Tags', record.tags.join(', ')],
  ['Addresses', record.addresses.map(addressLine).join('; ')],
];

/** What differs between two states of a record, in the order of the page. */
export const recordChanges = (before: CustomerRecord, after: CustomerRecord): RecordChange[] =>
  changesBetween(inWords(before), inWords(after));

/**
 * Of two records of one person, what the one that stays lacks is taken from the other; groups and tags come together.
 */
export function mergedRecord(stays: CustomerRecord, goes: CustomerRecord): CustomerRecord {
  const both = <T>(mine: readonly T[], theirs: readonly T[]) => [...new Set([...mine, ...theirs])];
  const addresses = [...stays.addresses, ...goes.addresses];
  const [born, news] = [stays.birthMonth === null ? goes : stays, stays.news ? stays : goes];
  return {
    name: stays.name,
    company: stays.company || goes.company,
    phone: stays.phone || goes.phone,
    mail: stays.mail || goes.mail,
    birthMonth: born.birthMonth,
    birthDay: born.birthDay,
    note: both([stays.note], [goes.note]).filter(Boolean).join('\n').slice(0, 500),
    news: news.news,
    newsOn: news.newsOn,
    newsHow: news.newsHow,
    groups: both(stays.groups, goes.groups).toSorted(),
    tags: both(stays.tags, goes.tags).toSorted().slice(0, MOST_TAGS),
    addresses: addresses
      .filter((one, at) => addresses.findIndex((other) => addressLine(other) === addressLine(one)) === at)
      .slice(0, MOST_ADDRESSES),
  };
}

/** A group that fills itself: whoever spent so much within so many months is in it. */
export interface GroupRule {
  /** In the shop's currency, with tax. */
  spent: number;
  months: number;
}

/** Why somebody is in a group by its rule. @param money writes an amount */
export const ruleWords = ({ spent, months }: GroupRule, money: (amount: number) => string): string =>
  `spent ${money(spent)} or more in ${months === 1 ? 'a month' : `${formatCount(months)} months`}`;
