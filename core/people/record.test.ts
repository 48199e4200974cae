import { describe, expect, it } from 'vitest';
import {
  isBirthday,
  mergedRecord,
  NOTHING_KNOWN,
  readBirthday,
  recordChanges,
  ruleWords,
  type CustomerRecord,
} from './record.ts';

const record = (more: Partial<CustomerRecord> = {}): CustomerRecord => ({
  ...NOTHING_KNOWN,
  name: 'Mo Tindall',
  ...more,
});
const home = { recipient: '', street: '4 Harbour Rise', postcode: '20417', city: 'Ferrisport' };

describe('a birthday', () => {
  it('is written month first, and stands in the calendar', () => {
    expect(readBirthday('03-14')).toEqual({ birthMonth: 3, birthDay: 14 });
    expect(readBirthday('1987-03-14')).toEqual({ birthMonth: 3, birthDay: 14 });
    expect(readBirthday(' ')).toEqual({ birthMonth: null, birthDay: null });
    for (const none of ['14.3.', '13-01', '04-31', '00-10', 'spring'])
      expect([none, readBirthday(none)]).toEqual([none, null]);
    expect([isBirthday(2, 29), isBirthday(2, 30), isBirthday(0, 1)]).toEqual([true, false, false]);
  });
});

describe('changes of a record', () => {
  it('are told fact by fact, with what was there', () => {
    const after = record({
      phone: '555-0199',
      news: true,
      newsOn: '2026-01-12',
      newsHow: 'asked at the till',
      tags: ['flute', 'guitar'],
      addresses: [home],
    });
    expect(recordChanges(record({ phone: '555-0100', tags: ['flute'] }), after)).toEqual([
      { what: 'Phone', was: '555-0100', became: '555-0199' },
      { what: 'News', was: 'no', became: 'yes, since 2026-01-12, asked at the till' },
      { what: 'Tags', was: 'flute', became: 'flute, guitar' },
      { what: 'Addresses', was: '', became: '4 Harbour Rise, 20417 Ferrisport' },
    ]);
    expect(recordChanges(after, structuredClone(after))).toEqual([]);
  });
});

describe('two records of one person', () => {
  it('come together: what the one lacks is taken from the other, and nothing stands there twice', () => {
    const stays = record({
      mail: 'mo@mail.example',
      tags: ['flute'],
      note: 'Left-handed.',
      addresses: [home],
    });
    const goes = record({
      name: 'M. Tindall',
      mail: 'other@mail.example',
      phone: '555-0199',
      birthMonth: 3,
      birthDay: 14,
      news: true,
      newsOn: '2026-01-12',
      tags: ['flute', 'choir'],
      note: 'Left-handed.',
      addresses: [{ ...home }, { ...home, street: '5 Harbour Rise' }],
    });
    expect(mergedRecord(stays, goes)).toEqual({
      ...stays,
      phone: '555-0199',
      birthMonth: 3,
      birthDay: 14,
      news: true,
      newsOn: '2026-01-12',
      tags: ['choir', 'flute'],
      addresses: [home, { ...home, street: '5 Harbour Rise' }],
    });
  });
});

it('the rule of a group says why somebody is in it', () => {
  const money = (amount: number) => (amount / 100).toFixed(2);
  expect(ruleWords({ spent: 50_000, months: 12 }, money)).toBe('spent 500.00 or more in 12 months');
  expect(ruleWords({ spent: 50_000, months: 1 }, money)).toBe('spent 500.00 or more in a month');
});
