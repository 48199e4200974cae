import type { ImportLine, ImportOutcome, ImportSubject, ImportView } from '../../contract/imports.ts';
import { one, type Database, type Reader, type Writer } from '../db/database.ts';

export interface StoredImport extends Omit<ImportView, 'counts' | 'who'> {
  staffId: number;
  /** The place of the till at which it was chosen. */
  placeId: number | null;
  counts: Partial<Record<ImportOutcome, number>>;
  doubles: boolean;
  who: string;
}

const VIEW = `list_import.id, list_import.name, subject, place_id as "placeId", at, staff_id as "staffId",
  staff.name as who, state, headings, columns, examples, doubles, rows, looked, written, counts, words
  from list_import join staff on staff.id = staff_id`;

export async function findImport(sql: Reader, id: string): Promise<StoredImport | undefined> {
  const [row] = await sql.query<StoredImport>(`select ${VIEW} where list_import.id = $1`, [id]);
  return row;
}

/** The list of some subject that is on its way, or the last one that was. */
export async function lastImport(sql: Reader, subject: ImportSubject): Promise<StoredImport | undefined> {
  const [row] = await sql.query<StoredImport>(
    `select ${VIEW} where subject = $1 order by state in ('reading', 'ready', 'writing') desc, at desc limit 1`,
    [subject],
  );
  return row;
}

/** The list that is to be looked through or written now. */
export async function importToDo(sql: Reader): Promise<StoredImport | undefined> {
  const [row] = await sql.query<StoredImport>(`select ${VIEW} where state in ('reading', 'writing')`);
  return row;
}

const PIECE = 32_768;

/** A piece of a list; empty after its end. */
async function pieceOf(sql: Reader, id: string, nth: number): Promise<string> {
  return one(
    await sql.query<{ piece: string }>(
      'select substr(content, $2, $3) as piece from list_import where id = $1',
      [id, 1 + nth * PIECE, PIECE],
    ),
  ).piece;
}

/** A list as it came, piece by piece. */
export async function* contentOf(database: Pick<Database, 'ask'>, id: string): AsyncGenerator<string> {
  for (let nth = 0; ; nth++) {
    const piece = await database.ask((sql) => pieceOf(sql, id, nth));
    if (piece === '') return;
    yield piece;
  }
}

/** A list as it is brought. */
export interface ListToImport {
  id: string;
  subject: ImportSubject;
  name: string;
  content: string;
  staffId: number;
  placeId: number;
  at: Date;
}

/** Stores a list to be looked through. @returns false where one is on its way already */
export async function addImport(sql: Writer, made: ListToImport): Promise<boolean> {
  const rows = await sql.query(
    `insert into list_import (id, at, staff_id, name, state, content, subject, place_id)
     values ($1, $2, $3, $4, 'reading', $5, $6, $7) on conflict do nothing returning id`,
    [made.id, made.at.toISOString(), made.staffId, made.name, made.content, made.subject, made.placeId],
  );
  return rows.length > 0;
}

/** Goes from one state to another. @returns false where it was in none of the first */
export async function stepImport(
  sql: Writer,
  id: string,
  from: readonly ImportView['state'][],
  to: ImportView['state'],
): Promise<boolean> {
  const rows = await sql.query(
    'update list_import set state = $3 where id = $1 and state = any ($2::text[]) returning id',
    [id, from, to],
  );
  return rows.length > 0;
}

/** It is looked through from the beginning, with these columns. */
export async function beginLooking(
  sql: Writer,
  id: string,
  { headings, columns, examples }: Pick<ImportView, 'headings' | 'columns' | 'examples'>,
): Promise<void> {
  await sql.query('delete from list_import_line where import_id = $1', [id]);
  await sql.query(
    `update list_import set headings = $2, columns = $3, examples = $4, rows = 0, looked = 0, counts = '{}', words = ''
     where id = $1`,
    [id, headings, JSON.stringify(columns), JSON.stringify(examples)],
  );
}

export async function putColumns(sql: Writer, id: string, columns: ImportView['columns']): Promise<void> {
  await sql.query('update list_import set columns = $2 where id = $1', [id, JSON.stringify(columns)]);
}

export async function putDoubles(sql: Writer, id: string, doubles: boolean): Promise<void> {
  await sql.query('update list_import set doubles = $2 where id = $1', [id, doubles]);
}

/** What was found in some lines. */
export async function noteLooked(
  sql: Writer,
  id: string,
  lines: readonly ImportLine[],
  so: { looked: number; counts: Partial<Record<ImportOutcome, number>> },
): Promise<void> {
  await sql.query(
    `insert into list_import_line (import_id, line, outcome, known_id, name, words)
     select $1, line, outcome, "knownId", name, words
     from jsonb_to_recordset($2) as one (line integer, outcome text, "knownId" integer, name text, words text)`,
    [id, JSON.stringify(lines.filter(({ outcome }) => outcome !== 'same'))],
  );
  await sql.query(
    'update list_import set looked = $2, rows = greatest(rows, $2), counts = $3 where id = $1',
    [id, so.looked, JSON.stringify(so.counts)],
  );
}

export async function noteWritten(sql: Writer, id: string, written: number): Promise<void> {
  await sql.query('update list_import set written = $2 where id = $1', [id, written]);
}

/** It is in, or was put away: the list itself is not kept. */
export async function endImport(
  sql: Writer,
  id: string,
  state: 'done' | 'dropped' | 'unreadable',
  words = '',
): Promise<void> {
  await sql.query(`update list_import set state = $2, words = $3, content = '' where id = $1`, [
    id,
    state,
    words,
  ]);
}

const LINES = 100;

export function importLines(sql: Reader, id: string, outcome: string, page: number): Promise<ImportLine[]> {
  return sql.query<ImportLine>(
    `select line, outcome, known_id as "knownId", name, words from list_import_line
     where import_id = $1 and ($2 = '' or outcome = $2) order by line limit ${LINES} offset $3`,
    [id, outcome, page * LINES],
  );
}

/** What lines were found to be when the list was looked through; those that change nothing are not kept. */
export async function outcomesOf(
  sql: Reader,
  id: string,
  lines: readonly { line: number }[],
): Promise<Map<number, ImportOutcome>> {
  const rows = await sql.query<{ line: number; outcome: ImportOutcome }>(
    'select line, outcome from list_import_line where import_id = $1 and line = any ($2::integer[])',
    [id, lines.map(({ line }) => line)],
  );
  return new Map(rows.map(({ line, outcome }) => [line, outcome]));
}

/** A line that is not what it was when the list was accepted is left out. */
export async function noteChanged(sql: Writer, id: string, line: number, now: ImportLine): Promise<void> {
  await sql.query(
    `insert into list_import_line (import_id, line, outcome, known_id, name, words)
     values ($1, $2, 'refused', $3, $4, $5)
     on conflict (import_id, line) do update set outcome = excluded.outcome, words = excluded.words`,
    [id, line, now.knownId, now.name, 'It was changed here since the list was accepted.'],
  );
  await sql.query(
    `update list_import set counts = jsonb_set(counts, '{refused}',
      to_jsonb(coalesce((counts->>'refused')::integer, 0) + 1))
     where id = $1`,
    [id],
  );
}
