import type { ImportLine } from '../../contract/imports.ts';
import { customerRecordSchema } from '../../contract/people.ts';
import { columnOf, lineToRecord } from '../../core/people/columns.ts';
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
import { fold } from '../../core/words.ts';
import type { Reader } from '../db/database.ts';
import { importerOf, type CellsOfLine, type ImportKind } from '../imports/importing.ts';
import { recordProblems } from '../imports/recordProblems.ts';
import { listGroups } from './groupStore.ts';
import { candidates, countAgain } from './importedStore.ts';
import { lockRecords, putRecords, readRecords, type RecordToPut } from './recordStore.ts';
import { knownCodes } from './store.ts';

type Cells = Parameters<typeof judgeLine>[0];

/** Ids of customers that some lines may be about, and the codes of cards that these name. */
async function namedBy(
  sql: Reader,
  part: readonly CellsOfLine[],
): Promise<{ ids: number[]; codes: string[] }> {
  const lines = part.map(({ cells }) => cells as Cells);
  const read = lines.map((cells) => lineToRecord(cells, null));
  const codes = read.flatMap(({ cards }) => cards);
  const ids = await candidates(sql, {
    numbers: lines.flatMap(({ number = '' }) => (/^\d{1,9}$/.test(number.trim()) ? [Number(number)] : [])),
    phones: read.map(({ record }) => phoneDigits(record.phone)),
    mails: read.map(({ record }) => record.mail.toLowerCase()),
    names: read.map(({ record }) => fold(record.name)),
    codes: codes.map((code) => code.toUpperCase()),
  });
  return { ids, codes };
}

/** What is known of customers that some lines may be about. */
async function knownOf(sql: Reader, part: readonly CellsOfLine[]): Promise<Known> {
  const { ids, codes } = await namedBy(sql, part);
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

/** A line as the report shows it. */
function reported(line: number, judged: Judged): ImportLine {
  const { outcome } = judged;
  if (outcome === 'same') return { line, outcome, name: '', words: '', knownId: judged.customerId };
  if (outcome === 'refused')
    return { line, outcome, name: judged.name, words: judged.why.slice(0, 400), knownId: null };
  const { name } = judged.record;
  if (outcome === 'new') return { line, outcome, name, words: '', knownId: null };
  if (outcome === 'double') return { line, outcome, name, words: judged.why, knownId: judged.customerId };
  const words = judged.changes.map(({ what, was, became }) => `${what}: ${was || '–'} → ${became || '–'}`);
  return { line, outcome, name, words: words.join('; ').slice(0, 400), knownId: judged.customerId };
}

const CUSTOMERS: ImportKind<Judged, Known, Before> = {
  columnOf,
  nothingBefore,
  async lockPart(sql, part) {
    const { ids } = await namedBy(sql, part);
    await lockRecords(sql, ids);
  },
  knownOf,
  judge: ({ line, cells }, known, before) =>
    judgeLine(cells as Cells, line, known, before, (record) => recordProblems(customerRecordSchema, record)),
  reported,
  async writePart(sql, found, { name, staffId, at }) {
    const put = found.flatMap((judged): RecordToPut[] => {
      if (judged.outcome === 'new' || judged.outcome === 'double') {
        const { record, cards } = judged;
        const changes = [{ what: 'Created', was: '', became: `${record.name}, from ${name}` }];
        return [{ id: null, record, cards, changes }];
      }
      if (judged.outcome !== 'changed') return [];
      const { customerId, record, cards, changes } = judged;
      return [{ id: customerId, record, cards, changes }];
    });
    await putRecords(sql, put, { staffId, at });
  },
  remember: ({ line, cells }, before) =>
    rememberPerson(lineToRecord(cells as Cells, null).record, line, before),
  forgetFrom,
  countAgain,
  in: { kind: 'people-changed', customerId: null },
};

export const importedCustomers = importerOf(CUSTOMERS);
