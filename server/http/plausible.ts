import type { AnySchema } from 'yup';
import { fieldProblem, type Problem } from './problem.ts';

/** No form has more fields, and nothing nests deeper. */
const MOST_KEYS = 200;
const MOST_DEPTH = 12;
/** A list whose schema names no maximum. */
const MOST_ELEMENTS = 1_000;
const FORBIDDEN = new Set(['__proto__', 'constructor', 'prototype']);

/** A text that the database can keep: no NUL, no half of a surrogate pair. */
export const isKeepable = (text: string): boolean => !/\0|\p{Surrogate}/u.test(text);

/** How many values there are in what was sent, itself included. */
export function countValues(value: unknown): number {
  if (typeof value !== 'object' || value === null) return 1;
  return Object.values(value).reduce((all: number, inside) => all + countValues(inside), 1);
}

interface WithParts {
  fields?: Record<string, unknown>;
  innerType?: unknown;
  tests?: { OPTIONS?: { name?: string; params?: Record<string, unknown> } }[];
}

/** The most elements that a schema lets a list have. */
function mostOf(schema: WithParts | undefined): number {
  const found = schema?.tests?.find((test) => test.OPTIONS?.name === 'max')?.OPTIONS?.params?.max;
  return typeof found === 'number' ? found : MOST_ELEMENTS;
}

/**
 * Looks at what was sent before anything is done with it: how much it is, and whether it can be kept at all. Lists are
 * measured before their elements are looked at.
 * @returns what is wrong, naming the field; `null` where nothing is
 */
export function implausible(value: unknown, schema?: AnySchema | null): Problem | null {
  return look(value, schema as WithParts | undefined, '', 0);
}

function look(value: unknown, schema: WithParts | undefined, path: string, depth: number): Problem | null {
  const name = path || 'The request';
  if (typeof value === 'string')
    return isKeepable(value) ? null : fieldProblem(path, `${name} holds characters that cannot be kept.`);
  if (typeof value === 'number')
    return Math.abs(value) <= Number.MAX_SAFE_INTEGER
      ? null
      : fieldProblem(path, `${name} is too large a number.`);
  if (typeof value !== 'object' || value === null) return null;
  if (depth === MOST_DEPTH) return fieldProblem(path, `${name} nests too deep.`);
  if (Array.isArray(value)) {
    const most = mostOf(schema);
    if (value.length > most) return fieldProblem(path, `${name} holds at most ${most}.`);
    for (const [at, element] of value.entries()) {
      const found = look(element, schema?.innerType as WithParts | undefined, `${path}[${at}]`, depth + 1);
      if (found) return found;
    }
    return null;
  }
  const keys = Object.keys(value);
  if (keys.length > MOST_KEYS) return fieldProblem(path, `${name} has too many fields.`);
  for (const key of keys) {
    const inside = path ? `${path}.${key}` : key;
    if (FORBIDDEN.has(key) || !isKeepable(key))
      return fieldProblem(path, `${name} has a field of no such name.`);
    const field = schema?.fields?.[key] as WithParts | undefined;
    const found = look((value as Record<string, unknown>)[key], field, inside, depth + 1);
    if (found) return found;
  }
  return null;
}
