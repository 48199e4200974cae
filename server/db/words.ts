/** Patterns for `like all` of a column of words, each after a space: some word begins with each that is looked for. */
export const beginnings = (words: readonly string[]): string[] =>
  words.map((word) => `% ${literally(word)}%`);

/** A text for `like`: what is special there stands for itself. */
export const literally = (text: string): string => text.replaceAll(/[\\%_]/g, '\\$&');
