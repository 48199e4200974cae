import { fold } from '../words.ts';
import {
  birthdayText,
  MOST_ADDRESSES,
  NOTHING_KNOWN,
  readBirthday,
  type CustomerAddress,
  type CustomerRecord,
} from './record.ts';

/** What a list of customers has a column for, with its heading first and what else it may be called. */
const NAMES = {
  number: ['Number', 'customer number', 'id'],
  name: ['Name', 'customer', 'full name'],
  company: ['Company', 'school', 'organisation', 'organization'],
  phone: ['Phone', 'telephone', 'mobile'],
  mail: ['Mail', 'email', 'e-mail', 'mail address'],
  birthday: ['Birthday', 'born', 'date of birth'],
  note: ['Note', 'notes', 'remark'],
  groups: ['Groups', 'group'],
  tags: ['Tags', 'tag'],
  news: ['News', 'newsletter', 'consent'],
  newsOn: ['News since', 'consent date'],
  newsHow: ['News how', 'consent how'],
  card: ['Card', 'cards', 'card number'],
} as const;

const ADDRESS_NAMES = {
  recipient: ['Recipient', 'address name'],
  street: ['Street', 'address', 'street and number'],
  postcode: ['Postcode', 'zip', 'postal code'],
  city: ['Town', 'city', 'place'],
} as const;

type AddressPart = keyof typeof ADDRESS_NAMES;
const PARTS = Object.keys(ADDRESS_NAMES) as AddressPart[];

/** A column: a fact, or a part of the first, second … address. */
export type Column = keyof typeof NAMES | `${AddressPart}-${number}`;

/** What is written of a customer besides the record. */
export interface ListedCustomer {
  number: number;
  record: CustomerRecord;
  /** Codes of cards that count. */
  cards: readonly string[];
}

const addressHeading = (part: AddressPart, place: number): string =>
  place === 1 ? ADDRESS_NAMES[part][0] : `${ADDRESS_NAMES[part][0]} ${place}`;

/** The columns of a list, with their headings. @param addresses so many for each customer, at least one */
export function listColumns(addresses: number): { column: Column; heading: string }[] {
  const facts = Object.entries(NAMES).map(([column, [heading]]) => ({ column: column as Column, heading }));
  const places = Array.from({ length: Math.min(MOST_ADDRESSES, Math.max(1, addresses)) }, (_, at) => at + 1);
  return [
    ...facts,
    ...places.flatMap((place) =>
      PARTS.map((part) => ({
        column: `${part}-${place}` as const,
        heading: addressHeading(part, place),
      })),
    ),
  ];
}

/** What a heading names; `null` where it names nothing that can be imported. */
export function columnOf(heading: string): Column | null {
  const plain = fold(heading).trim();
  const fact = Object.entries(NAMES).find(([, names]) => names.some((name) => fold(name) === plain));
  if (fact) return fact[0] as Column;
  const [, words = '', place = '1'] = /^(.*?)(?: ([2-9]))?$/.exec(plain) ?? [];
  const part = PARTS.find((one) => ADDRESS_NAMES[one].some((name) => fold(name) === words));
  return part && Number(place) <= MOST_ADDRESSES ? `${part}-${Number(place)}` : null;
}

const several = (cell: string): string[] => [
  ...new Set(
    cell
      .split(';')
      .map((one) => one.trim())
      .filter(Boolean),
  ),
];

const yes = (cell: string) => /^(yes|y|true|1|x|ja|oui|si)$/i.test(fold(cell).trim());

/** A customer as the cells of a list. */
export function cellsOf({ number, record, cards }: ListedCustomer): Partial<Record<Column, string>> {
  const cells: Partial<Record<Column, string>> = {
    number: String(number),
    name: record.name,
    company: record.company,
    phone: record.phone,
    mail: record.mail,
    birthday: birthdayText(record),
    note: record.note,
    groups: record.groups.join('; '),
    tags: record.tags.join('; '),
    news: record.news ? 'yes' : 'no',
    newsOn: record.newsOn,
    newsHow: record.newsHow,
    card: cards.join('; '),
  };
  record.addresses.forEach((address, at) => {
    for (const part of PARTS) cells[`${part}-${at + 1}`] = address[part];
  });
  return cells;
}

/** What a line of a list says of a customer. */
export interface ReadLine {
  record: CustomerRecord;
  /** Codes of cards that are to be theirs. */
  cards: string[];
  /** What cannot be read, in words. */
  wrong: string[];
}

/**
 * A customer as a line of a list has them. What there is no column for stays as it was; an empty cell takes away what
 * stood there.
 * @param before as they are known; `null` for somebody new
 */
export function lineToRecord(
  cells: Partial<Record<Column, string>>,
  before: CustomerRecord | null,
): ReadLine {
  const was = before ?? NOTHING_KNOWN;
  const text = (column: keyof typeof NAMES, from: string) => (cells[column] ?? from).trim();
  const list = (column: 'groups' | 'tags', from: readonly string[]) => {
    const cell = cells[column];
    return cell === undefined ? [...from] : several(cell).toSorted();
  };
  const born = cells.birthday === undefined ? was : readBirthday(cells.birthday);
  const news = cells.news === undefined ? was.news : yes(cells.news);
  return {
    record: {
      name: text('name', was.name),
      company: text('company', was.company),
      phone: text('phone', was.phone),
      mail: text('mail', was.mail),
      birthMonth: born?.birthMonth ?? null,
      birthDay: born?.birthDay ?? null,
      note: text('note', was.note),
      news,
      newsOn: news ? text('newsOn', was.newsOn) : '',
      newsHow: text('newsHow', was.newsHow),
      groups: list('groups', was.groups),
      tags: list('tags', was.tags),
      addresses: addressesOf(cells, was.addresses),
    },
    cards: several(cells.card ?? ''),
    wrong: born ? [] : ['A birthday looks like 03-14: month, then day.'],
  };
}

function addressesOf(
  cells: Partial<Record<Column, string>>,
  before: readonly CustomerAddress[],
): CustomerAddress[] {
  const places = Array.from({ length: MOST_ADDRESSES }, (_, at) => at);
  const addresses = places.map((at) => {
    const was = before[at];
    const part = (name: AddressPart) => (cells[`${name}-${at + 1}`] ?? was?.[name] ?? '').trim();
    return {
      recipient: part('recipient'),
      street: part('street'),
      postcode: part('postcode'),
      city: part('city'),
    };
  });
  return addresses.filter(({ recipient, street, postcode, city }) => recipient || street || postcode || city);
}
