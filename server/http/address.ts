/** A number that stands in an address for something that is kept; 0, which nothing has, where it is none. */
export const idIn = (text: unknown): number => {
  const id = Number(text);
  return Number.isInteger(id) && id > 0 && id < 2 ** 31 ? id : 0;
};

/** How far somebody is who asks for what came since, from 0; 0 where that is no whole number. */
export const sinceIn = (text: unknown): number => {
  const since = Number(text);
  return Number.isSafeInteger(since) && since > 0 ? since : 0;
};

/** Which page of a list is asked for, counted from 0. */
export const pageIn = idIn;

/** A word that a list is narrowed to; empty where none is said. */
export const wordIn = (text: unknown): string => String(text ?? '').trim();
