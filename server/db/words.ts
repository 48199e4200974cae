import { fold } from '../../core/words.ts';

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

/**
 * A condition: somewhere in a text stands what was typed, however either is written. Every row is looked at.
 * @param put takes a value that the condition needs, and says where it stands
 */
export const says = (text: string, typed: string, put: (value: string) => string): string =>
  `(folded(${text}) like ${put(`%${literally(fold(typed))}%`)} or ${text} ilike ${put(`%${literally(typed)}%`)})`;
