import { isDay } from './day.ts';

/**
 * Locales in which a shop can have its amounts, dates and times written (BCP 47). All write figures in the
 * digits 0 to 9, which receipt printers have.
 */
export const LOCALES: readonly string[] = [
  ...['en-US', 'en-AU', 'en-CA', 'en-GB', 'en-IE', 'en-IN', 'en-NZ', 'en-ZA'],
  ...['bg-BG', 'cs-CZ', 'da-DK', 'de-AT', 'de-CH', 'de-DE', 'el-GR'],
  ...[
    'es-AR',
    'es-CL',
    'es-CO',
    'es-ES',
    'es-MX',
    'es-PE',
    'et-EE',
    'fi-FI',
    'fr-BE',
    'fr-CA',
    'fr-CH',
    'fr-FR',
  ],
  ...[
    'he-IL',
    'hi-IN',
    'hr-HR',
    'hu-HU',
    'id-ID',
    'is-IS',
    'it-CH',
    'it-IT',
    'ja-JP',
    'ko-KR',
    'lt-LT',
    'lv-LV',
  ],
  ...[
    'ms-MY',
    'nb-NO',
    'nl-BE',
    'nl-NL',
    'pl-PL',
    'pt-BR',
    'pt-PT',
    'ro-RO',
    'sk-SK',
    'sl-SI',
    'sr-Latn-RS',
    'sv-SE',
  ],
  ...['th-TH', 'tr-TR', 'uk-UA', 'vi-VN', 'zh-CN', 'zh-TW'],
];

/** What a locale is called, with an amount as it is written there. */
export function localeWords(locale: string): string {
  const name = new Intl.DisplayNames('en', { type: 'language', languageDisplay: 'standard' }).of(locale);
  const amount = new Intl.NumberFormat(locale, { minimumFractionDigits: 2 }).format(1234.5);
  return `${name ?? locale}: ${amount.replaceAll(/[\u00a0\u202f]/g, ' ')}`;
}

/** The locale that fits best to those that a person prefers, the best liked first. */
export function nearestLocale(preferred: readonly string[]): string {
  for (const wanted of preferred) {
    const { language } = new Intl.Locale(wanted);
    const found =
      LOCALES.find((one) => one === wanted) ??
      LOCALES.find((one) => new Intl.Locale(one).language === language);
    if (found) return found;
  }
  return 'en-US';
}

/** The signs with which a locale writes figures. */
export interface FigureSigns {
  group: string;
  decimal: string;
}

const known = new Map<string, FigureSigns>();

/** Spaces that do not break are for screens: printers and fields have plain ones. */
export const plainSpaces = (text: string): string => text.replaceAll(/[\u00a0\u202f]/g, ' ');

export function signsOf(locale: string): FigureSigns {
  let signs = known.get(locale);
  if (!signs) {
    const parts = new Intl.NumberFormat(locale, { minimumFractionDigits: 1 }).formatToParts(1_234_567.8);
    const sign = (type: string) => plainSpaces(parts.find((part) => part.type === type)?.value ?? '');
    signs = { group: sign('group'), decimal: sign('decimal') || '.' };
    known.set(locale, signs);
  }
  return signs;
}

/** The locale of the shop. A house has one shop, and so has a till: figures are written alike everywhere. */
let shopLocale = 'en-US';

export const localeOfShop = (): string => shopLocale;

/** From now on figures are written and read as a locale does. @param locale a BCP 47 tag, e.g. `de-DE` */
export function writeFiguresAs(locale: string): void {
  shopLocale = locale;
}

/** The decimal sign where the shop is. */
export const decimalSign = (): string => signsOf(shopLocale).decimal;

/** With the minus of the amounts beside it. */
const plainSigns = (figure: string): string => plainSpaces(figure).replace('-', '\u2212');

/** A count in figures, thousands grouped. */
export const formatCount = (count: number): string => plainSigns(count.toLocaleString(shopLocale));

/** So many of something: `1 line`, `1,204 lines`. */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${formatCount(count)} ${count === 1 ? one : many}`;

/** A number with one decimal. */
export const formatTenths = (value: number, locale = shopLocale): string =>
  plainSigns(value.toLocaleString(locale, { minimumFractionDigits: 1, maximumFractionDigits: 1 }));

/** A number with three decimals at most, thousands grouped. */
export const formatThousandths = (value: number, locale = shopLocale): string =>
  plainSigns(value.toLocaleString(locale, { maximumFractionDigits: 3 }));

const dayFormats = new Map<string, Intl.DateTimeFormat>();

/** A day of the calendar as it is written where the shop is. @param day `YYYY-MM-DD`; what is none stays as it is */
export function formatDay(day: string, locale = shopLocale): string {
  const at = Date.parse(`${day}T00:00:00Z`);
  if (Number.isNaN(at)) return day;
  let format = dayFormats.get(locale);
  if (!format) {
    format = new Intl.DateTimeFormat(locale, { calendar: 'gregory', dateStyle: 'medium', timeZone: 'UTC' });
    dayFormats.set(locale, format);
  }
  return plainSpaces(format.format(at));
}

/** A month as it is written where the shop is, e.g. `March 2026`. @param month `YYYY-MM` */
export function formatMonth(month: string, locale = shopLocale): string {
  const options = { calendar: 'gregory', month: 'long', year: 'numeric', timeZone: 'UTC' } as const;
  return plainSpaces(new Intl.DateTimeFormat(locale, options).format(new Date(`${month}-01T00:00:00Z`)));
}

/** How a day is typed where the shop is, e.g. `dd.mm.yyyy`: the order of the locale, with one of the signs `. / -`. */
export function typedDayFormat(locale = shopLocale): string {
  const parts = new Intl.DateTimeFormat(locale, {
    calendar: 'gregory',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
  }).formatToParts(0);
  const sign = ['.', '/', '-'].find((one) =>
    parts.some(({ type, value }) => type === 'literal' && value.includes(one)),
  );
  return parts
    .flatMap(({ type }) => (type === 'day' ? 'dd' : type === 'month' ? 'mm' : type === 'year' ? 'yyyy' : []))
    .join(sign ?? '/');
}

/** Reads a day as it is typed where the shop is, or as `2026-03-02`. @returns `YYYY-MM-DD`, or `null` */
export function parseDay(text: string, locale = shopLocale): string | null {
  if (isDay(text)) return text;
  const parts = /^(\d{1,4})([./-])(\d{1,2})\2(\d{1,4})$/.exec(text);
  if (!parts) return null;
  const order = typedDayFormat(locale).split(/[./-]/);
  const of = (part: string) => [parts[1], parts[3], parts[4]][order.indexOf(part)] ?? '';
  const year = of('yyyy');
  const day = [
    year.length === 2 ? `20${year}` : year,
    of('mm').padStart(2, '0'),
    of('dd').padStart(2, '0'),
  ].join('-');
  return isDay(day) ? day : null;
}

/** The day on which a week begins where the shop is: 0 is Sunday. */
export function firstDayOfWeek(locale = shopLocale): number {
  const { getWeekInfo } = Intl.Locale.prototype as { getWeekInfo?: () => { firstDay: number } };
  return (getWeekInfo?.call(new Intl.Locale(locale)).firstDay ?? 1) % 7;
}

/** The days of the week, as ISO 8601 counts them. */
export const WEEKDAYS = [
  'Monday',
  'Tuesday',
  'Wednesday',
  'Thursday',
  'Friday',
  'Saturday',
  'Sunday',
] as const;
