import { isDay } from '../core/day.ts';
/**
 * Yup with the sentences of this application: they name the field and never say again what was sent.
 * Every schema is made from here, so that the sentences are set before the first one is.
 */
import { number, setLocale, string } from 'yup';

setLocale({
  mixed: {
    default: ({ path }) => `${path} is not valid.`,
    required: ({ path }) => `${path} is missing.`,
    defined: ({ path }) => `${path} is missing.`,
    notNull: ({ path }) => `${path} is missing.`,
    oneOf: ({ path }) => `${path} is none of those that are known.`,
    notOneOf: ({ path }) => `${path} is not valid.`,
    notType: ({ path, type }) =>
      `${path} is not what it should be: ${type === 'array' ? 'a list' : `a ${type}`}.`,
  },
  string: {
    length: ({ path, length }) => `${path} has exactly ${length} characters.`,
    min: ({ path, min }) => `${path} has at least ${min} characters.`,
    max: ({ path, max }) => `${path} has at most ${max} characters.`,
    matches: ({ path }) => `${path} is not written as it should be.`,
    email: ({ path }) => `${path} is no mail address.`,
    uuid: ({ path }) => `${path} is not written as it should be.`,
  },
  number: {
    min: ({ path, min }) => `${path} is at least ${min}.`,
    max: ({ path, max }) => `${path} is at most ${max}.`,
    integer: ({ path }) => `${path} is a whole number.`,
  },
  array: {
    min: ({ path, min }) => `${path} needs at least ${min}.`,
    max: ({ path, max }) => `${path} holds at most ${max}.`,
  },
});

/** A whole number as the database keeps most of them: 32 bits. */
export const whole = () => number().integer().min(-2_147_483_648).max(2_147_483_647);

/** An amount of money in minor units, or another large whole number that is exact. */
export const safe = () => number().integer().min(Number.MIN_SAFE_INTEGER).max(Number.MAX_SAFE_INTEGER);

/** A day of the calendar, `2026-03-02`. @param words what is said where it is none */
export const day = (words = 'A date looks like 2026-03-02.') =>
  string().test('day', words, (value) => value === undefined || value === null || isDay(value));

/** The same, where nothing may be typed. */
export const dayOrNothing = (words = 'A date looks like 2026-03-02.') =>
  string().test('day', words, (value) => !value || isDay(value));

export * from 'yup';
