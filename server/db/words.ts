import { apart, fold } from '../../core/words.ts';
import type { Ask } from './asked.ts';

/**
 * A query for sets of words (`word_set(words) @@ $1::tsquery`): some word begins with each that is looked for. Nothing
 * typed is an operator.
 */
export const beginnings = (words: readonly string[]): string =>
  words.map((word) => `'${word.replaceAll(/['\\]/g, '$&$&')}':*`).join(' & ');

/** Patterns that say the same for `like all`, where few rows are looked at: of words, each after a space. */
export const wordPatterns = (words: readonly string[]): string[] =>
  words.map((word) => `% ${literally(word)}%`);

/** A text for `like`: what is special there stands for itself. */
export const literally = (text: string): string => text.replaceAll(/[\\%_]/g, '\\$&');

/** A text in SQL as words, each after a space; `apart` in core/words.ts has the same signs. */
const inWords = (text: string): string => `' ' || regexp_replace(${text}, '[\\s,;:/()"''.–-]+', ' ', 'g')`;

/**
 * A condition: somewhere in a text stands what was typed, however either is written, or some word of it begins with
 * each that was typed, in any order. Every row is looked at.
 * @param text SQL of the text
 */
export function says(text: string, typed: string, ask: Ask): string {
  const written = [
    [`folded(${text})`, fold(typed)],
    [`lower(${text})`, typed.toLowerCase()],
  ] as const;
  const found = written.flatMap(([row, looked]) => {
    const words = apart(looked);
    return [
      `${row} like ${ask(`%${literally(looked)}%`)}`,
      ...(words.length > 1 ? [`${inWords(row)} like all (${ask(wordPatterns(words))}::text[])`] : []),
    ];
  });
  return `(${found.join(' or ')})`;
}
