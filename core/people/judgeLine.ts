import { fold } from '../words.ts';
import { cardProblem, type KnownCode } from './card.ts';
import { lineToRecord, type Column } from './columns.ts';
import { likelySame, phoneDigits, plainName, type CustomerFacts } from './customer.ts';
import type { RecordChange } from '../recordChange.ts';
import { recordChanges, type CustomerRecord } from './record.ts';

/** What is known of customers and codes that some lines may be about. */
export interface Known {
  customers: ReadonlyMap<number, CustomerRecord>;
  /** The same by what they may be told by; see `peopleBy`. */
  people: ReadonlyMap<string, number>;
  /** Codes in capitals that are cards, or under which goods are sold. */
  codes: ReadonlyMap<string, KnownCode>;
  /** Groups by their names: whether they fill themselves. */
  groups: ReadonlyMap<string, boolean>;
}

/** What was read in the lines before, so that nobody is created twice from one list. */
export interface Before {
  /** Who is who, by what tells people apart: the line that said so. */
  people: Map<string, number>;
  numbers: Map<number, number>;
  codes: Map<string, number>;
}

export const nothingBefore = (): Before => ({ people: new Map(), numbers: new Map(), codes: new Map() });

/** What becomes of a line. */
export type Judged =
  | { outcome: 'new'; record: CustomerRecord; cards: string[] }
  /** Likely known, or read in an earlier line: created only where somebody says so. */
  | { outcome: 'double'; record: CustomerRecord; cards: string[]; customerId: number | null; why: string }
  | {
      outcome: 'changed';
      record: CustomerRecord;
      cards: string[];
      customerId: number;
      changes: RecordChange[];
    }
  | { outcome: 'same'; customerId: number }
  | { outcome: 'refused'; name: string; why: string };

/** What tells people apart, in one word each. */
function keysOf({ name, phone, mail }: CustomerFacts): string[] {
  const who = fold(name);
  const [digits, address] = [phoneDigits(phone), mail.toLowerCase()];
  return [...(digits ? [`${who}|${digits}`] : []), ...(address ? [`${who}|${address}`] : [])];
}

/** What may tell somebody, though others may have it too: telephone, mail, name. */
const hintsOf = ({ name, phone, mail }: CustomerFacts): string[] => [
  `phone ${phoneDigits(phone)}`,
  `mail ${mail.trim().toLowerCase()}`,
  `name ${plainName(name)}`,
];

/** Customers by all that may tell them; of several with the same, the first. */
export function peopleBy(customers: ReadonlyMap<number, CustomerFacts>): Map<string, number> {
  const people = new Map<string, number>();
  for (const [id, facts] of customers)
    for (const key of [...keysOf(facts), ...hintsOf(facts)]) if (!people.has(key)) people.set(key, id);
  return people;
}

/**
 * What becomes of a line of a list. Who is named by a number is that customer only where name, telephone or mail says
 * the same: the numbers of another shop mean somebody else here.
 * @param problems what is wrong with a record, in words
 */
export function judgeLine(
  cells: Partial<Record<Column, string>>,
  line: number,
  known: Known,
  before: Before,
  problems: (record: CustomerRecord) => string[],
): Judged {
  const first = lineToRecord(cells, null);
  const earlier = earlierLine(first.record, before);
  const refuse = (why: string): Judged => ({ outcome: 'refused', name: first.record.name, why });
  // Whoever an earlier line has created is not known yet when a list is looked through, and must not be when it is
  // written.
  const found = earlier === null ? findKnown(cells, first.record, first.cards, known) : { id: null };
  if ('why' in found) return refuse(found.why);
  const was = found.id === null ? null : (known.customers.get(found.id) ?? null);
  const { record, cards, wrong } = was ? lineToRecord(cells, was) : first;
  const all = [
    ...wrong,
    ...problems(record),
    ...groupProblems(record, was, known),
    ...cardProblems(cards, found.id, known),
  ];
  const [problem] = all;
  if (problem !== undefined) return refuse(problem);

  if (found.id !== null && was) {
    const other = before.numbers.get(found.id);
    if (other !== undefined) return refuse(`Line ${other} is about the same customer.`);
    before.numbers.set(found.id, line);
  }
  const fresh = cards.filter((code) => !known.codes.get(code.toUpperCase())?.holder);
  for (const code of fresh) {
    const other = before.codes.get(code.toUpperCase());
    if (other !== undefined) return refuse(`Line ${other} has the card ${code} as well.`);
    before.codes.set(code.toUpperCase(), line);
  }
  if (found.id !== null && was) {
    const changes = recordChanges(was, record);
    if (fresh.length > 0) changes.push({ what: 'Card', was: '', became: fresh.join(', ') });
    return changes.length === 0
      ? { outcome: 'same', customerId: found.id }
      : { outcome: 'changed', record, cards: fresh, customerId: found.id, changes };
  }
  return newPerson(record, fresh, line, known, before);
}

/** Who a line is about, or why that cannot be said; `id` is `null` for somebody who is not known. */
function findKnown(
  cells: Partial<Record<Column, string>>,
  facts: CustomerFacts,
  cards: readonly string[],
  { customers, people, codes }: Known,
): { id: number | null } | { why: string } {
  const number = (cells.number ?? '').trim();
  if (number !== '') {
    const named = /^\d{1,9}$/.test(number) ? customers.get(Number(number)) : undefined;
    if (named) {
      return likelySame(facts, named)
        ? { id: Number(number) }
        : { why: `Number ${number} is ${named.name} here. Take the number out if this is somebody else.` };
    }
  }
  for (const code of cards) {
    const holder = codes.get(code.toUpperCase())?.holder;
    const known = holder && customers.get(holder.customerId);
    if (holder && known && likelySame(facts, known)) return { id: holder.customerId };
  }
  // The same name, and the same telephone number or mail address: one person for sure.
  const sure = keysOf(facts).map((key) => people.get(key));
  return { id: sure.find((id) => id !== undefined) ?? null };
}

function groupProblems(record: CustomerRecord, was: CustomerRecord | null, { groups }: Known): string[] {
  return record.groups.flatMap((name) => {
    if (was?.groups.includes(name)) return [];
    if (!groups.has(name)) return [`There is no group “${name}”.`];
    return groups.get(name) ? [`The group “${name}” fills itself.`] : [];
  });
}

/** What is wrong with cards; one that they have already is not given again. */
const cardProblems = (cards: readonly string[], id: number | null, { codes }: Known): string[] =>
  cards.flatMap((code) => {
    const known = codes.get(code.toUpperCase()) ?? {};
    const theirs = id !== null && known.holder?.customerId === id && !known.holder.stopped;
    const problem = theirs ? null : cardProblem(code, known, id);
    return problem ? [`${code}: ${problem}`] : [];
  });

function newPerson(
  record: CustomerRecord,
  cards: string[],
  line: number,
  { customers, people }: Known,
  before: Before,
): Judged {
  const earlier = earlierLine(record, before);
  rememberPerson(record, line, before);
  if (earlier !== null)
    return { outcome: 'double', record, cards, customerId: null, why: `like line ${earlier}` };
  for (const hint of hintsOf(record)) {
    const customerId = people.get(hint);
    const one = customerId === undefined ? undefined : customers.get(customerId);
    const why = one && likelySame(record, one);
    if (customerId !== undefined && one && why)
      return { outcome: 'double', record, cards, customerId, why: `${one.name}: ${why}` };
  }
  return { outcome: 'new', record, cards };
}

function earlierLine(facts: CustomerFacts, { people }: Before): number | null {
  const lines = keysOf(facts).map((key) => people.get(key));
  return lines.find((line) => line !== undefined) ?? null;
}

/** Remembers who a line was about that was not known. */
export function rememberPerson(facts: CustomerFacts, line: number, { people }: Before): void {
  for (const key of keysOf(facts)) if (!people.has(key)) people.set(key, line);
}

/** Forgets what was read from a line on: it is read again. */
export function forgetFrom(line: number, before: Before): void {
  for (const read of [before.people, before.numbers, before.codes] as Map<unknown, number>[])
    for (const [what, at] of read) if (at >= line) read.delete(what);
}
