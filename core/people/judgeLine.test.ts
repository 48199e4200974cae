import { describe, expect, it } from 'vitest';
import {
  forgetFrom,
  judgeLine,
  nothingBefore,
  peopleBy,
  rememberPerson,
  type Before,
  type Known,
} from './judgeLine.ts';
import { NOTHING_KNOWN } from './record.ts';

const priya = { ...NOTHING_KNOWN, name: 'Priya Hallow', phone: '555-0120', tags: ['flute'] };
const customers = new Map([[1, priya]]);
const known: Known = {
  customers,
  people: peopleBy(customers),
  codes: new Map([
    ['C-1', { holder: { customerId: 1, name: 'Priya Hallow', stopped: false } }],
    ['C-OLD', { holder: { customerId: 1, name: 'Priya Hallow', stopped: true } }],
    ['2000000000015', { item: 'Rosin, light' }],
  ]),
  groups: new Map([
    ['Teachers', false],
    ['Regulars', true],
  ]),
};
const none = () => [];
const judge = (
  cells: Parameters<typeof judgeLine>[0],
  before: Before = nothingBefore(),
  problems: Parameters<typeof judgeLine>[4] = none,
) => {
  const judged = judgeLine(cells, 9, known, before, problems);
  return 'why' in judged ? [judged.outcome, judged.why] : [judged.outcome];
};

describe('a line of a list', () => {
  it('is somebody new, somebody known as they were, or changed', () => {
    expect(judge({ name: 'Mo Tindall', phone: '555-0199' })).toEqual(['new']);
    expect(judge({ name: 'priya hallow', phone: '(555) 0120' })).toEqual(['changed']);
    expect(judge({ number: '1', name: 'Priya Hallow', phone: '555-0120' })).toEqual(['same']);
    const judged = judgeLine(
      { name: 'Priya Hallow', phone: '555-0120', mail: 'p@mail.example' },
      2,
      known,
      nothingBefore(),
      none,
    );
    expect(judged).toMatchObject({
      outcome: 'changed',
      customerId: 1,
      record: { ...priya, mail: 'p@mail.example' },
      changes: [{ what: 'Mail', was: '', became: 'p@mail.example' }],
    });
  });

  it('is likely a double where only one thing says so', () => {
    expect(judge({ name: 'Somebody Else', phone: '555-0120' })).toEqual([
      'double',
      'Priya Hallow: same phone number',
    ]);
    expect(judge({ name: 'Hallow Priya' })).toEqual(['double', 'Priya Hallow: same name']);
  });

  it('is not taken for whoever has its number here, unless something else says the same', () => {
    expect(judge({ number: '1', name: 'Ben Otherby', phone: '555-0177' })).toEqual([
      'refused',
      'Number 1 is Priya Hallow here. Take the number out if this is somebody else.',
    ]);
    expect(judge({ number: '4711', name: 'Ben Otherby', phone: '555-0177' })).toEqual(['new']);
  });

  it('is refused with a reason: groups and cards that cannot be, and what a form would refuse', () => {
    const mo = { name: 'Mo Tindall', phone: '555-0199' };
    expect(judge({ ...mo, groups: 'Teachers; Nobody' })).toEqual(['refused', 'There is no group “Nobody”.']);
    expect(judge({ ...mo, groups: 'Regulars' })).toEqual(['refused', 'The group “Regulars” fills itself.']);
    expect(judge({ ...mo, card: 'c-1' })).toEqual(['refused', 'c-1: This is the card of Priya Hallow.']);
    expect(judge({ ...mo, card: 'C-OLD' })).toEqual([
      'refused',
      'C-OLD: This card of Priya Hallow was stopped and counts no more.',
    ]);
    expect(judge({ ...mo, card: '2000000000015' })).toEqual([
      'refused',
      '2000000000015: This is the code of Rosin, light.',
    ]);
    expect(judge({ ...mo, birthday: '31.12.' })[0]).toBe('refused');
    expect(judge({ name: '' }, nothingBefore(), () => ['What is the name?'])).toEqual([
      'refused',
      'What is the name?',
    ]);
  });

  it('creates nobody twice, also where the list was broken off after the first', () => {
    const before = nothingBefore();
    const mo = { name: 'Mo Tindall', phone: '555-0199', card: 'C-7' };
    expect(judge(mo, before)).toEqual(['new']);
    expect(judge({ ...mo, card: '' }, before)).toEqual(['double', 'like line 9']);
    expect(judge({ name: 'Bo Farrant', card: 'c-7' }, before)).toEqual([
      'refused',
      'Line 9 has the card c-7 as well.',
    ]);
    const again = nothingBefore();
    rememberPerson({ ...NOTHING_KNOWN, ...mo }, 4, again);
    expect(judge({ name: 'mo tindall', phone: '5550199' }, again)).toEqual(['double', 'like line 4']);
    // A part that is written again after another till came first is read again as it was.
    forgetFrom(9, before);
    expect(judge(mo, before)).toEqual(['new']);
    forgetFrom(10, before);
    expect(judge({ ...mo, card: '' }, before)).toEqual(['double', 'like line 9']);
    const twice = nothingBefore();
    const line = { number: '1', name: 'Priya Hallow', phone: '555-0120' };
    expect(judge(line, twice)).toEqual(['same']);
    expect(judge(line, twice)).toEqual(['refused', 'Line 9 is about the same customer.']);
  });
});
