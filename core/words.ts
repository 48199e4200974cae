import anyAscii from 'any-ascii';

/** Lower-case words in plain letters: `Reed, B♭ clarinet` gives `reed`, `b♭`, `clarinet`; `Łódź` gives `lodz`. */
export function wordsOf(text: string): string[] {
  return fold(text)
    .split(/[\s,;:/()"'.–-]+/)
    .filter(Boolean);
}

const BEYOND_ASCII = /[^ -~]/;
const BEYOND_ASCII_LETTERS = /[^\P{L}A-Za-z]+/gu;

/** A text as it is compared: lower case, in plain letters. */
export function fold(text: string): string {
  if (!BEYOND_ASCII.test(text)) return text.toLowerCase();
  const bare = text.normalize('NFD').replace(/\p{M}/gu, '');
  return bare.replace(BEYOND_ASCII_LETTERS, (letters) => anyAscii(letters)).toLowerCase();
}
