import { setImmediate as turn } from 'node:timers/promises';
import { CsvError } from 'csv-parse';
import type { HouseEvent } from '../../contract/events.ts';
import type { ImportLine, ImportOutcome, ImportSubject } from '../../contract/imports.ts';
import type { Reader, Writer } from '../db/database.ts';
import type { House, Sender } from '../house.ts';
import { startSender } from '../sender.ts';
import { cellsBy, columnsOf, linesOf, type ListLine } from './list.ts';
import * as store from './store.ts';

/** So many lines are looked through, and so many written, at a time: whoever rings up meanwhile waits for no more. */
const LOOKED = 120;
const WRITTEN = 80;
/** So many lines are judged before requests that came meanwhile are answered. */
const JUDGED = 16;
/** So much of a list is read at a time, in characters: all lines of it are taken apart at once. */
const READ = 4_096;
const EXAMPLES = 3;
const SOONEST_MS = 1_000;

/** A line by what its cells are. */
export interface CellsOfLine {
  line: number;
  cells: Partial<Record<string, string>>;
}

/** Who brings a list, and when it is written. */
export interface Bringing {
  /** What the list is called. */
  name: string;
  staffId: number;
  placeId: number | null;
  at: Date;
}

/**
 * What is particular about lists of one subject.
 * @typeParam Judged what becomes of a line
 * @typeParam Known what the shop knows of what some lines may be about
 * @typeParam Before what was read in the lines before
 */
export interface ImportKind<Judged extends { outcome: ImportOutcome }, Known, Before> {
  columnOf(heading: string): string | null;
  nothingBefore(): Before;
  /** Takes the rows that some lines may be about, before they are judged for good: nobody changes them meanwhile. */
  lockPart(sql: Writer, part: readonly CellsOfLine[]): Promise<void>;
  knownOf(sql: Reader, part: readonly CellsOfLine[]): Promise<Known>;
  judge(line: CellsOfLine, known: Known, before: Before): Judged;
  /** A line as the report shows it. */
  reported(line: number, judged: Judged): ImportLine;
  /** Writes lines that are new, or changed. */
  writePart(sql: Writer, found: readonly Judged[], by: Bringing): Promise<void>;
  /** Remembers a line that was written before the list was broken off. */
  remember(line: CellsOfLine, before: Before): void;
  /** Forgets what was read from a line on: it is read again. */
  forgetFrom(line: number, before: Before): void;
  /** Lets the database count again how many there are: looking them up changes as they become many. */
  countAgain(sql: Writer): Promise<void>;
  /** What is told when all of it is in. */
  in: HouseEvent;
}

/** Looks lists of one subject through, and writes them. */
export interface Importer {
  lookThrough(working: Working, list: store.StoredImport, stopped: () => boolean): Promise<void>;
  writeIn(working: Working, list: store.StoredImport, stopped: () => boolean): Promise<void>;
}

type Working = Pick<House, 'database' | 'clock' | 'log' | 'events'>;

/** Looks lists through and writes those that were accepted, a part at a time, also after a restart. */
export function startImports(working: Working, importers: Readonly<Record<ImportSubject, Importer>>): Sender {
  const { database, clock, log } = working;
  return startSender(
    { clock, log },
    {
      what: 'importing lists',
      soonestMs: SOONEST_MS,
      async sendDue(stopped) {
        for (;;) {
          const todo = await database.ask(store.importToDo);
          if (!todo || stopped()) return;
          const importer = importers[todo.subject];
          if (todo.state === 'reading') await importer.lookThrough(working, todo, stopped);
          else await importer.writeIn(working, todo, stopped);
        }
      },
      nextDue: () => Promise.resolve(null),
    },
  );
}

/** A list in small pieces. */
async function* inPieces(content: AsyncGenerator<string>): AsyncGenerator<string> {
  for await (const piece of content)
    for (let at = 0; at < piece.length; at += READ) yield piece.slice(at, at + READ);
}

async function* partsOf(content: AsyncGenerator<string>, size: number): AsyncGenerator<ListLine[]> {
  let part: ListLine[] = [];
  for await (const line of linesOf(inPieces(content))) {
    part.push(line);
    if (part.length < size) continue;
    yield part;
    part = [];
    // Requests that came meanwhile are answered between two parts.
    await turn();
  }
  if (part.length > 0) yield part;
}

export function importerOf<Judged extends { outcome: ImportOutcome }, Known, Before>(
  kind: ImportKind<Judged, Known, Before>,
): Importer {
  const byCells = (columns: store.StoredImport['columns'], part: readonly ListLine[]): CellsOfLine[] =>
    part.map(({ line, cells }) => ({ line, cells: cellsBy(columns, cells) }));

  async function judgePart(
    sql: Reader,
    part: readonly CellsOfLine[],
    before: Before,
  ): Promise<{ line: number; judged: Judged }[]> {
    const known = await kind.knownOf(sql, part);
    const found: { line: number; judged: Judged }[] = [];
    for (const one of part) {
      if (found.length % JUDGED === JUDGED - 1) await turn();
      found.push({ line: one.line, judged: kind.judge(one, known, before) });
    }
    return found;
  }

  /** Says of each line what would become of it; nothing is written. */
  async function lookThrough(
    { database, events }: Working,
    { id, columns: asked }: store.StoredImport,
    stopped: () => boolean,
  ): Promise<void> {
    const content = store.contentOf(database, id);
    const before = kind.nothingBefore();
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
          if (asked.length !== headings.length) columns = columnsOf(headings, kind.columnOf);
          const examples = part.slice(0, EXAMPLES).map(({ cells }) => cells);
          const begun = { headings, columns, examples };
          await database.write((sql) => store.beginLooking(sql, id, begun));
        }
        const found = await database.ask((sql) => judgePart(sql, byCells(columns, part), before));
        for (const { judged } of found) counts[judged.outcome] = (counts[judged.outcome] ?? 0) + 1;
        looked += part.length;
        const lines = found.map(({ line, judged }) => kind.reported(line, judged));
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

  /**
   * Writes what was accepted. A part is written with the note of how far it is: a list that was broken off goes on
   * there.
   */
  async function writeIn(
    { database, clock, events }: Working,
    list: store.StoredImport,
    stopped: () => boolean,
  ): Promise<void> {
    const { id, columns, written: begun } = list;
    const content = store.contentOf(database, id);
    const before = kind.nothingBefore();
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
      for (const line of byCells(columns, part.slice(0, done))) {
        const outcome = outcomes.get(line.line);
        if (outcome !== 'changed' && outcome !== 'same') kind.remember(line, before);
      }
      const rest = byCells(columns, part.slice(done));
      written += part.length;
      if (rest.length === 0) continue;
      let tried = false;
      await database.write(async (sql) => {
        // Tried again where another till came first: what this part has added does not count yet.
        if (tried) kind.forgetFrom(rest[0]?.line ?? 0, before);
        tried = true;
        await kind.lockPart(sql, rest);
        const found = await judgePart(sql, rest, before);
        await writePart(sql, list, found, outcomes, clock.now());
        await store.noteWritten(sql, id, written);
      });
      events.tell({ kind: 'import-changed', id });
      if (written >= counted) {
        await database.write((sql) => kind.countAgain(sql));
        counted = 4 * written;
      }
    }
    await database.write((sql) => store.endImport(sql, id, 'done'));
    await database.write((sql) => kind.countAgain(sql));
    events.tell({ kind: 'import-changed', id });
    events.tell(kind.in);
  }

  /** @param outcomes what each line was found to be when the list was looked through */
  async function writePart(
    sql: Writer,
    { id, name, doubles, staffId, placeId }: store.StoredImport,
    found: readonly { line: number; judged: Judged }[],
    outcomes: ReadonlyMap<number, ImportOutcome>,
    at: Date,
  ): Promise<void> {
    const put: Judged[] = [];
    for (const { line, judged } of found) {
      const { outcome } = judged;
      // Somebody changed it, or made it known, since it was accepted.
      if (outcome !== (outcomes.get(line) ?? 'same'))
        await store.noteChanged(sql, id, line, kind.reported(line, judged));
      else if (outcome === 'new' || outcome === 'changed' || (outcome === 'double' && doubles))
        put.push(judged);
    }
    if (put.length > 0) await kind.writePart(sql, put, { name, staffId, placeId, at });
  }

  return { lookThrough, writeIn };
}
