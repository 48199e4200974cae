import { LOCALES, localeWords } from '../../core/locale.ts';

/** How figures can be written, each with an example, in alphabetical order. */
export const LOCALE_CHOICES = LOCALES.map((value) => ({ value, title: localeWords(value) })).toSorted(
  (a, b) => a.title.localeCompare(b.title, 'en'),
);
