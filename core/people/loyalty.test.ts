import { expect, it } from 'vitest';
import { endingSoon, joinProblem, pointsWords } from './loyalty.ts';

it('says how many points there are, and which of them end soon', () => {
  expect(pointsWords(1240, { word: 'beats' })).toBe('1,240 beats');
  const lots = [
    { day: '2026-04-30', points: 20 },
    { day: '2026-03-02', points: 5 },
    { day: '2026-03-02', points: 7 },
    { day: '2026-02-28', points: 90 },
    { day: '2027-01-01', points: 400 },
  ];
  expect(endingSoon(lots, '2026-03-02')).toEqual({ day: '2026-03-02', points: 12 });
  expect(endingSoon(lots, '2026-03-03')).toEqual({ day: '2026-04-30', points: 20 });
  expect(endingSoon(lots, '2026-05-01')).toBeNull();
});

it('lets somebody join after a sale, within its days, where nobody else was there', () => {
  const beats = { word: 'beats', joinDays: 14 };
  const sale = { day: '2026-03-02', customerId: null, voided: false, givenTo: null, goods: true };
  expect(joinProblem(sale, beats, '2026-03-16', 7)).toBeNull();
  expect(joinProblem(sale, beats, '2026-03-17', 7)).toBe('Its beats could be given within 14 days.');
  expect(joinProblem(sale, { ...beats, joinDays: 0 }, '2026-03-03', 7)).toBe(
    'Its beats could be given on that day only.',
  );
  expect(joinProblem({ ...sale, customerId: 8 }, beats, '2026-03-02', 7)).toBe(
    'This sale was for somebody else.',
  );
  expect(joinProblem({ ...sale, customerId: 8 }, beats, '2026-03-02', null)).toBeNull();
  expect(joinProblem({ ...sale, voided: true }, beats, '2026-03-02', 7)).toBe('This sale was voided.');
  expect(joinProblem({ ...sale, goods: false }, beats, '2026-03-02', 7)).toBe(
    'There is nothing in it that gives beats.',
  );
  expect(joinProblem({ ...sale, givenTo: 'Mo' }, beats, '2026-03-02', 7)).toBe('Its beats went to Mo.');
});
