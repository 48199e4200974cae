import { IMPORT_OUTCOMES, type ImportSubject, type ImportView } from '../../contract/imports.ts';
import type { Reader, Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import * as store from './store.ts';

const noImport = () => new Problem('no-import', 'There is no such list.');

function viewOf({
  counts,
  staffId: _staffId,
  placeId: _placeId,
  doubles: _doubles,
  ...row
}: store.StoredImport): ImportView {
  const all = Object.fromEntries(IMPORT_OUTCOMES.map((outcome) => [outcome, counts[outcome] ?? 0]));
  return { ...row, at: new Date(row.at).toISOString(), counts: all as ImportView['counts'] };
}

/** How far a list is. @throws Problem 404 */
export async function importView(sql: Reader, subject: ImportSubject, id: string): Promise<ImportView> {
  const found = await store.findImport(sql, id);
  if (found?.subject !== subject) throw noImport();
  return viewOf(found);
}

/** The list that is on its way, or the last one that was. */
export async function lastImport(sql: Reader, subject: ImportSubject): Promise<ImportView | null> {
  const found = await store.lastImport(sql, subject);
  return found ? viewOf(found) : null;
}

/**
 * Stores a list to be looked through; the same again changes nothing. @throws Problem 409 while another is on its way
 */
export async function beginImport(sql: Writer, made: store.ListToImport): Promise<ImportView> {
  if (made.content.includes('\0'))
    throw fieldProblem('file', 'This is no list: it holds characters that no text has.');
  if (made.content.trim() === '') throw fieldProblem('file', 'The file is empty.');
  if (!(await store.addImport(sql, made)) && !(await store.findImport(sql, made.id))) {
    throw new Problem('import-running', 'Another list is being imported.', {
      detail: 'Accept it or put it away first.',
    });
  }
  return importView(sql, made.subject, made.id);
}

/**
 * Says which column is what; the list is looked through once more. @throws Problem 404, 409 where it is written
 * already
 */
export async function chooseColumns(
  sql: Writer,
  subject: ImportSubject,
  id: string,
  columns: ImportView['columns'],
): Promise<ImportView> {
  const named = columns.filter((column) => column !== null);
  const twice = named.find((column, at) => named.indexOf(column) !== at);
  if (twice !== undefined) throw fieldProblem('columns', 'Two columns of the list cannot be the same thing.');
  await step(sql, subject, id, ['ready'], 'reading');
  await store.putColumns(sql, id, columns);
  return importView(sql, subject, id);
}

/** Lets a list that was looked through be written. @throws Problem 404, 409 */
export async function acceptImport(
  sql: Writer,
  subject: ImportSubject,
  id: string,
  doubles: boolean,
): Promise<ImportView> {
  await step(sql, subject, id, ['ready'], 'writing');
  await store.putDoubles(sql, id, doubles);
  return importView(sql, subject, id);
}

/** Puts a list away that nothing was written of. @throws Problem 404, 409 */
export async function dropImport(sql: Writer, subject: ImportSubject, id: string): Promise<ImportView> {
  await step(sql, subject, id, ['ready', 'reading'], 'dropped');
  await store.endImport(sql, id, 'dropped');
  return importView(sql, subject, id);
}

async function step(
  sql: Writer,
  subject: ImportSubject,
  id: string,
  from: ImportView['state'][],
  to: ImportView['state'],
): Promise<void> {
  const found = await store.findImport(sql, id);
  if (found?.subject !== subject) throw noImport();
  if (await store.stepImport(sql, id, from, to)) return;
  throw new Problem('changed-meanwhile', 'The list is further already.');
}
