import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { daysToBirthday } from './birthday.ts';
import { customerWords, likelySame, searchedWords } from './customer.ts';

const priya = { name: 'Priya Hallów', company: '', phone: '(555) 01-20', mail: 'Priya.Hallow@mail.example' };
const finds = (typed: string) =>
  searchedWords(typed).every((word) => customerWords(priya).includes(` ${word}`));

describe('customers', () => {
  it('are found by the beginning of any name, by mail, and by phone however it is written', () => {
    for (const typed of ['pri', 'hallow', 'HALL pri', '555-0120', '0120', 'priya.hallow@mail', 'mail']) {
      expect([typed, finds(typed)]).toEqual([typed, true]);
    }
    for (const typed of ['iya', 'hallow x', '555-0199'])
      expect([typed, finds(typed)]).toEqual([typed, false]);
  });

  it('may be one person when phone, mail or name are the same', () => {
    const other = { name: 'P. Hallow', company: '', phone: '', mail: '' };
    expect(likelySame(priya, { ...other, phone: '5550120' })).toBe('same phone number');
    expect(likelySame(priya, { ...other, mail: 'priya.hallow@MAIL.example' })).toBe('same mail address');
    expect(likelySame(priya, { ...other, name: 'hallow priya' })).toBe('same name');
    expect(likelySame(priya, other)).toBeNull();
    expect(likelySame({ ...priya, phone: '', mail: '' }, { ...other, name: '' })).toBeNull();
  });

  it('have a birthday within a year, today included', () => {
    expect(daysToBirthday({ month: 3, day: 14 }, '2026-03-14')).toBe(0);
    expect(daysToBirthday({ month: 3, day: 13 }, '2026-03-14')).toBe(364);
    expect(daysToBirthday({ month: 1, day: 1 }, '2026-12-31')).toBe(1);
    expect(daysToBirthday({ month: 2, day: 29 }, '2026-02-28')).toBe(1);
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 28 }),
        fc.date({ min: new Date('2020-01-01'), max: new Date('2040-01-01'), noInvalidDate: true }),
        (month, day, at) => {
          const days = daysToBirthday({ month, day }, at.toISOString().slice(0, 10));
          expect(days).toBeGreaterThanOrEqual(0);
          expect(days).toBeLessThanOrEqual(365);
          const then = new Date(Date.parse(`${at.toISOString().slice(0, 10)}T00:00:00Z`) + days * 86_400_000);
          expect([then.getUTCMonth() + 1, then.getUTCDate()]).toEqual([month, day]);
        },
      ),
    );
  });
});
