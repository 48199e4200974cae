/** Lower-case words in plain letters: `Reed, B♭ clarinet` gives `reed`, `b♭`, `clarinet`; `Łódź` gives `lodz`. */
export const wordsOf = (text: string): string[] => apart(fold(text));

/** Words of a text as they are written; `server/db/words.ts` has the same signs. */
export const apart = (text: string): string[] => text.split(/[\s,;:/()"'.–-]+/).filter(Boolean);

/** Whether every word that is looked for begins one of a text. */
export function wordsFit(looked: string, text: string): boolean {
  const words = wordsOf(text);
  return wordsOf(looked).every((begin) => words.some((word) => word.startsWith(begin)));
}

const BEYOND_ASCII = /[^ -~]/;
const BEYOND_ASCII_LETTERS = /[^\P{L}A-Za-z]/gu;

/** Letters of Europe that are no plain ones with a mark, in lower case; as the database's `folded` has them. */
const LETTERS: Readonly<Record<string, string>> = {
  æ: 'ae',
  œ: 'oe',
  þ: 'th',
  ß: 'ss',
  ŋ: 'ng',
  ĳ: 'ij',
  ŉ: "'n",
  ð: 'd',
  ø: 'o',
  đ: 'd',
  ħ: 'h',
  ı: 'i',
  ĸ: 'q',
  ŀ: 'l',
  ł: 'l',
  ŧ: 't',
  ſ: 's',
};

const withoutMarks = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '');

/** Writes other letters in plain ones; where nobody has said how, they stay as they are. */
let write = (letter: string): string => letter;

/**
 * From now on letters of other scripts are compared in plain ones as well: `Оркестр` is found by `orkestr`. The table
 * for that is larger than a till's page: only who stores or looks through goods and people in other scripts needs it.
 * @param as how a letter is written
 */
export function writeOtherScripts(as: (letter: string) => string): void {
  write = as;
}

/** A text as it is compared: lower case, in plain letters. */
export function fold(text: string): string {
  if (!BEYOND_ASCII.test(text)) return text.toLowerCase();
  return withoutMarks(text)
    .replace(BEYOND_ASCII_LETTERS, (letter) => LETTERS[letter.toLowerCase()] ?? write(letter))
    .toLowerCase();
}

/** Whether a text has letters of other scripts, which `writeOtherScripts` is for. */
export function hasOtherScripts(text: string): boolean {
  if (!BEYOND_ASCII.test(text)) return false;
  const beyond = withoutMarks(text).match(BEYOND_ASCII_LETTERS) ?? [];
  return beyond.some((letter) => !(letter.toLowerCase() in LETTERS));
}

/** A sentence with one point at its end, also where it ends with a name that has one, as `Undone by Isolde R.` */
export const onePoint = (words: string): string => words.replace(/\.{2,}$/, '.');

/** A text with a capital at its beginning. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
