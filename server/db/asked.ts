import type { Parameter } from './database.ts';

/** Values that a question asks with, numbered as they are asked for. */
export function asking(): { given: Parameter[]; ask: (value: Parameter) => string } {
  const given: Parameter[] = [];
  return { given, ask: (value) => `$${given.push(value)}` };
}

/**
 * Whether one of several texts of a row has what is typed, whatever is large or small in it.
 * @param texts SQL of each text
 */
export const hasWords = (texts: readonly string[], asked: string): string =>
  `position(lower(${asked}) in lower(concat_ws(' ', ${texts.join(', ')}))) > 0`;

/** The number that is typed, plainly or with what stands before it on the screen: `12`, `B-0012`, `Transfer 12`. */
export function typedNumber(find: string): number | undefined {
  const [, digits] = /^(?:[a-z]+[- ])?0*(\d{1,9})$/i.exec(find.trim()) ?? [];
  return digits === undefined ? undefined : Number(digits);
}
