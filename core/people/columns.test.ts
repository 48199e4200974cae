import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cellsOf, columnOf, lineToRecord, listColumns } from './columns.ts';
import { DAYS_OF_MONTH, MOST_ADDRESSES, NOTHING_KNOWN, type CustomerRecord } from './record.ts';

/** Text as it is stored: without spaces at its ends. */
const text = fc.string({ maxLength: 30 }).map((one) => one.trim());
const word = text.filter((one) => one !== '' && !one.includes(';'));
const several = fc.uniqueArray(word, { maxLength: 5 }).map((words) => words.toSorted());
const address = fc
  .record({ recipient: text, street: text, postcode: text, city: text })
  .filter((one) => Object.values(one).some(Boolean));
const birthday = fc.option(
  fc.integer({ min: 1, max: 12 }).chain((birthMonth) =>
    fc.record({
      birthMonth: fc.constant(birthMonth),
      birthDay: fc.integer({ min: 1, max: DAYS_OF_MONTH[birthMonth - 1] ?? 28 }),
    }),
  ),
  { nil: { birthMonth: null, birthDay: null } },
);
const record: fc.Arbitrary<CustomerRecord> = fc
  .record({
    facts: fc.record({ name: word, company: text, phone: text, mail: text, note: text, newsHow: text }),
    birthday,
    news: fc.boolean(),
    groups: several,
    tags: several,
    addresses: fc.array(address, { maxLength: MOST_ADDRESSES }),
  })
  .map(({ facts, birthday: born, news, ...rest }) => ({
    ...NOTHING_KNOWN,
    ...facts,
    ...born,
    news,
    newsOn: news ? '2026-01-12' : '',
    ...rest,
  }));

describe('a list of customers', () => {
  it('says everything of a record: what was written reads as it was, for somebody known and somebody new', () => {
    fc.assert(
      fc.property(record, record, fc.uniqueArray(word, { maxLength: 3 }), (one, other, cards) => {
        const listed = listColumns(MOST_ADDRESSES);
        const cells = cellsOf({ number: 7, record: one, cards });
        // A list has a cell for each of its columns.
        const line = Object.fromEntries(listed.map(({ column }) => [column, cells[column] ?? '']));
        for (const before of [null, one, other]) {
          expect(lineToRecord(line, before)).toEqual({ record: one, cards, wrong: [] });
        }
      }),
    );
  });

  it('names its columns so that they are known again', () => {
    for (const { column, heading } of listColumns(MOST_ADDRESSES))
      expect([heading, columnOf(heading)]).toEqual([heading, column]);
    expect(listColumns(0).length).toBe(listColumns(1).length);
    expect(['e-mail', ' TELEPHONE ', 'Zip 2', 'Zip 1', 'Zip 9', 'Points'].map(columnOf)).toEqual([
      'mail',
      'phone',
      'postcode-2',
      null,
      null,
      null,
    ]);
  });

  it('changes what it has a column for, and nothing else', () => {
    const known = { ...NOTHING_KNOWN, name: 'Mo', phone: '555-0100', tags: ['flute'], news: true };
    expect(lineToRecord({ phone: '555-0199' }, known).record).toEqual({ ...known, phone: '555-0199' });
    expect(lineToRecord({ phone: '', tags: '' }, known).record).toEqual({ ...known, phone: '', tags: [] });
    expect(lineToRecord({ news: 'No' }, known).record.news).toBe(false);
    expect(lineToRecord({ birthday: '31-31' }, known).wrong).toEqual([
      'A birthday looks like 03-14: month, then day.',
    ]);
  });
});
