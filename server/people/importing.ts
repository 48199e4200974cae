import { setImmediate as turn } from 'node:timers/promises';
import { CsvError } from 'csv-parse';
import { customerRecordSchema, type ImportLine, type ImportOutcome } from '../../contract/people.ts';
import { ValidationError } from '../../contract/yup.ts';
import { lineToRecord } from '../../core/people/columns.ts';
import { phoneDigits } from '../../core/people/customer.ts';
import {
  forgetFrom,
  judgeLine,
  nothingBefore,
  peopleBy,
  rememberPerson,
  type Before,
  type Judged,
  type Known,
} from '../../core/people/judgeLine.ts';
import type { CustomerRecord } from '../../core/people/record.ts';
import { fold } from '../../core/words.ts';
import type { Reader, Writer } from '../db/database.ts';
import type { House, Sender } from '../house.ts';
import { isKeepable } from '../http/plausible.ts';
import { startSender } from '../sender.ts';
import { listGroups } from './groupStore.ts';
import { cellsBy, columnsOf, linesOf, type ListLine } from './importList.ts';
import * as store from './importStore.ts';
import { putRecords, readRecords } from './recordStore.ts';
import { knownCodes } from './store.ts';

/** So many lines are looked through, and so many written, at a time: whoever rings up meanwhile waits for no more. */
const LOOKED = 120;
const WRITTEN = 40;
const EXAMPLES = 3;
const SOONEST_MS = 1_000;

type Working = Pick<House, 'database' | 'clock' | 'log' | 'events'>;

/** Looks lists of customers through and writes those that were accepted, a part at a time, also after a restart. */
export function startImports(working: Working): Sender {
  const { database, clock, log } = working;
  return startSender(
    { clock, log },
    {
      what: 'importing customers',
      soonestMs: SOONEST_MS,
      async sendDue(stopped) {
        for (;;) {
          const todo = await database.ask(store.importToDo);
          if (!todo || stopped()) return;
          if (todo.state === 'reading') await lookThrough(working, todo, stopped);
          else await writeIn(working, todo, stopped);
        }
      },
      nextDue: () => Promise.resolve(null),
    },
  );
}

async function* partsOf(content: AsyncGenerator<string>, size: number): AsyncGenerator<ListLine[]> {
  let part: ListLine[] = [];
  for await (const line of linesOf(content)) {
    part.push(line);
    if (part.length < size) continue;
    yield part;
    part = [];
    // Requests that came meanwhile are answered between two parts.
    await turn();
  }
  if (part.length > 0) yield part;
}

/** What is wrong with a record, in words. */
function recordProblems(record: CustomerRecord): string[] {
  if (!isKeepable(JSON.stringify(record))) return ['It holds characters that cannot be kept.'];
  try {
    customerRecordSchema.validateSync(record, { abortEarly: false, disableStackTrace: true });
    return [];
  } catch (error) {
    if (error instanceof ValidationError) return error.errors;
    throw error;
  }
}

/** What is known of customers that some lines may be about. */
async function knownOf(sql: Reader, lines: readonly Parameters<typeof judgeLine>[0][]): Promise<Known> {
  const read = lines.map((cells) => lineToRecord(cells, null));
  const codes = read.flatMap(({ cards }) => cards);
  const ids = await store.candidates(sql, {
    numbers: lines.flatMap(({ number = '' }) => (/^\d{1,9}$/.test(number.trim()) ? [Number(number)] : [])),
    phones: read.map(({ record }) => phoneDigits(record.phone)),
    mails: read.map(({ record }) => record.mail.toLowerCase()),
    names: read.map(({ record }) => fold(record.name)),
    codes: codes.map((code) => code.toUpperCase()),
  });
  const records = await readRecords(sql, ids);
  const groups = await listGroups(sql);
  const customers = new Map(records.map(({ id, record }) => [id, record]));
  return {
    customers,
    people: peopleBy(customers),
    codes: await knownCodes(sql, codes),
    groups: new Map(groups.map(({ name, fillsItself }) => [name, fillsItself])),
  };
}

async function judgePart(
  sql: Reader,
  columns: store.StoredImport['columns'],
  part: readonly ListLine[],
  before: Before,
): Promise<{ line: number; judged: Judged }[]> {
  const lines = part.map(({ line, cells }) => ({ line, cells: cellsBy(columns, cells) }));
  const known = await knownOf(
    sql,
    lines.map(({ cells }) => cells),
  );
  return lines.map(({ line, cells }) => ({
    line,
    judged: judgeLine(cells, line, known, before, recordProblems),
  }));
}

/** A line as the report shows it. */
function reported(line: number, judged: Judged): ImportLine {
  const { outcome } = judged;
  if (outcome === 'same') return { line, outcome, name: '', words: '', customerId: judged.customerId };
  if (outcome === 'refused')
    return { line, outcome, name: judged.name, words: judged.why.slice(0, 400), customerId: null };
  const { name } = judged.record;
  if (outcome === 'new') return { line, outcome, name, words: '', customerId: null };
  if (outcome === 'double') return { line, outcome, name, words: judged.why, customerId: judged.customerId };
  const words = judged.changes.map(({ what, was, became }) => `${what}: ${was || '–'} → ${became || '–'}`);
  return { line, outcome, name, words: words.join('; ').slice(0, 400), customerId: judged.customerId };
}

/** Says of each line what would become of it; nothing is written. */
async function lookThrough(
  { database, events }: Working,
  { id, columns: asked }: store.StoredImport,
  stopped: () => boolean,
): Promise<void> {
  const content = store.contentOf(database, id);
  const before = nothingBefore();
  const counts: Partial<Record<ImportOutcome, number>> = {};
  let columns = asked;
  let headings: string[] | undefined;
  let looked = 0;
  try {
    for await (const part of partsOf(content, LOOKED)) {
      if (stopped()) return;
      if (headings === undefined) {
        headings = part.shift()?.cells ?? [];
        // What somebody chose by hand counts.
        if (asked.length !== headings.length) columns = columnsOf(headings);
        const examples = part.slice(0, EXAMPLES).map(({ cells }) => cells);
        const begun = { headings, columns, examples };
        await database.write((sql) => store.beginLooking(sql, id, begun));
      }
      const found = await database.ask((sql) => judgePart(sql, columns, part, before));
      for (const { judged } of found) counts[judged.outcome] = (counts[judged.outcome] ?? 0) + 1;
      looked += part.length;
      const lines = found.map(({ line, judged }) => reported(line, judged));
      await database.write((sql) => store.noteLooked(sql, id, lines, { looked, counts }));
      events.tell({ kind: 'import-changed', id });
    }
    await database.write((sql) => store.stepImport(sql, id, ['reading'], 'ready'));
  } catch (error) {
    if (!(error instanceof CsvError)) throw error;
    await database.write((sql) => store.endImport(sql, id, 'unreadable', error.message));
  }
  events.tell({ kind: 'import-changed', id });
}

/** Writes what was accepted. A part is written with the note of how far it is: a list that was broken off goes on there. */
async function writeIn(
  { database, clock, events }: Working,
  { id, name, columns, written: begun, doubles, staffId }: store.StoredImport,
  stopped: () => boolean,
): Promise<void> {
  const content = store.contentOf(database, id);
  const before = nothingBefore();
  let headed = false;
  let written = 0;
  let counted = 1_000;
  for await (const part of partsOf(content, WRITTEN)) {
    if (stopped()) return;
    if (!headed) part.shift();
    headed = true;
    const outcomes = await database.ask((sql) => store.outcomesOf(sql, id, part));
    const done = Math.max(0, Math.min(part.length, begun - written));
    // Those that were written before it was broken off are known by now.
    for (const { line, cells } of part.slice(0, done)) {
      if (outcomes.get(line) === 'changed' || outcomes.get(line) === 'same') continue;
      rememberPerson(lineToRecord(cellsBy(columns, cells), null).record, line, before);
    }
    const rest = part.slice(done);
    written += part.length;
    if (rest.length === 0) continue;
    let tried = false;
    await database.write(async (sql) => {
      // Tried again where another till came first: what this part has added does not count yet.
      if (tried) forgetFrom(rest[0]?.line ?? 0, before);
      tried = true;
      const found = await judgePart(sql, columns, rest, before);
      await writePart(sql, { id, name, found, outcomes, doubles, staffId, at: clock.now() });
      await store.noteWritten(sql, id, written);
    });
    events.tell({ kind: 'import-changed', id });
    if (written >= counted) {
      // How customers are best looked up changes as they become many.
      await database.write(store.countAgain);
      counted = 4 * written;
    }
  }
  await database.write((sql) => store.endImport(sql, id, 'done'));
  await database.write(store.countAgain);
  events.tell({ kind: 'import-changed', id });
  events.tell({ kind: 'people-changed', customerId: null });
}

interface Part {
  id: string;
  /** What the list is called. */
  name: string;
  found: readonly { line: number; judged: Judged }[];
  /** What each line was found to be when the list was looked through. */
  outcomes: ReadonlyMap<number, ImportOutcome>;
  doubles: boolean;
  staffId: number;
  at: Date;
}

async function writePart(
  sql: Writer,
  { id, name, found, outcomes, doubles, staffId, at }: Part,
): Promise<void> {
  const put: Parameters<typeof putRecords>[1][number][] = [];
  for (const { line, judged } of found) {
    const seen = outcomes.get(line) ?? 'same';
    if (judged.outcome !== seen) {
      // Somebody changed them, or made them known, since it was accepted.
      await store.noteChanged(sql, id, line, reported(line, judged));
      continue;
    }
    if (judged.outcome === 'new' || (judged.outcome === 'double' && doubles)) {
      const changes = [{ what: 'Created', was: '', became: `${judged.record.name}, from ${name}` }];
      put.push({ id: null, record: judged.record, cards: judged.cards, changes });
    } else if (judged.outcome === 'changed') {
      const { customerId, record, cards, changes } = judged;
      put.push({ id: customerId, record, cards, changes });
    }
  }
  if (put.length > 0) await putRecords(sql, put, { staffId, at });
}
