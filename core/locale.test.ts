import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import {
  firstDayOfWeek,
  counted,
  formatCount,
  formatTenths,
  formatDay,
  LOCALES,
  localeWords,
  nearestLocale,
  parseDay,
  typedDayFormat,
  writeFiguresAs,
} from './locale.ts';
import { formatMoney, formatMoneyIn, parseMoney, plainMoney } from './money.ts';
import { formatQuantity, parseQuantity } from './quantity.ts';
import { formatFactor, formatRate, parseFactor, parseRate } from './rate.ts';

afterEach(() => writeFiguresAs('en-US'));

describe('figures as a shop writes them', () => {
  it('follow the locale everywhere', () => {
    writeFiguresAs('de-DE');
    expect(formatMoney(-123_450)).toBe('−1.234,50');
    expect(plainMoney(123_450)).toBe('1234,50');
    expect(formatQuantity(2500)).toBe('2,5');
    expect(formatRate(75_000)).toBe('7,5 %');
    expect(formatCount(12_345)).toBe('12.345');
    expect([counted(1, 'line'), counted(0, 'entry', 'entries'), counted(1_204, 'line')]).toEqual([
      '1 line',
      '0 entries',
      '1.204 lines',
    ]);
    expect([formatCount(-12_345), formatTenths(-1.25), formatTenths(8)]).toEqual(['−12.345', '−1,3', '8,0']);
    writeFiguresAs('en-IN');
    expect(formatMoney(123_456_789)).toBe('12,34,567.89');
  });

  it('are read back as they are written, and as they are typed', () => {
    const locales = fc.constantFrom(...LOCALES);
    fc.assert(
      fc.property(fc.maxSafeInteger(), fc.constantFrom(0, 2, 3), locales, (amount, digits, locale) => {
        writeFiguresAs(locale);
        expect(parseMoney(formatMoney(amount, digits), digits)).toBe(amount);
        expect(parseMoney(plainMoney(amount, digits), digits)).toBe(amount);
        expect(formatMoney(amount, digits)).toBe(formatMoneyIn(locale, amount, digits));
      }),
    );
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 999_999_999 }),
        fc.integer({ min: 0, max: 1_000_000 }),
        locales,
        (quantity, rate, locale) => {
          writeFiguresAs(locale);
          expect(parseQuantity(formatQuantity(quantity))).toBe(quantity);
          expect(parseRate(formatRate(rate))).toBe(rate);
          expect(parseFactor(formatFactor(quantity))).toBe(quantity);
        },
      ),
    );
  });

  it('and days are read as they are typed there', () => {
    for (const locale of LOCALES) {
      const typed = typedDayFormat(locale).replace('dd', '07').replace('mm', '11').replace('yyyy', '2026');
      expect([locale, parseDay(typed, locale)]).toEqual([locale, '2026-11-07']);
    }
    expect(['2.3.2026', '02.03.26', '2026-03-02'].map((text) => parseDay(text, 'de-DE'))).toEqual([
      ...['2026-03-02', '2026-03-02', '2026-03-02'],
    ]);
    expect(
      ['31.2.2026', '2.3', '3-0234', '2026-02-30', '2.3/2026', '1.2.3'].map((text) =>
        parseDay(text, 'de-DE'),
      ),
    ).toEqual(Array(6).fill(null));
  });

  it('are never read as something else: a group is no decimal sign', () => {
    writeFiguresAs('de-DE');
    expect(parseMoney('1.234')).toBe(123_400);
    expect(parseMoney('1,234')).toBeNull();
    expect(parseMoney('1,5')).toBe(150);
    expect(parseMoney('1.5')).toBe(150);
    writeFiguresAs('en-US');
    expect(parseMoney('1,234')).toBe(123_400);
    expect(parseMoney('1.234')).toBeNull();
  });

  it('have digits that receipt printers have, in every locale', () => {
    for (const locale of LOCALES) expect(formatMoneyIn(locale, 1_234_567_890)).toMatch(/^[\d.,’' ]+$/);
  });

  it('are proposed from what a person prefers', () => {
    expect(nearestLocale(['de-CH', 'en'])).toBe('de-CH');
    expect(nearestLocale(['fr', 'en-GB'])).toBe('fr-BE');
    expect(nearestLocale(['tlh', 'sv'])).toBe('sv-SE');
    expect(nearestLocale([])).toBe('en-US');
    expect(localeWords('de-CH')).toMatch(/German.*Switzerland.*1[’']234.50/);
  });
});

describe('days as a shop writes them', () => {
  it('follow its locale, and its calendar is the one of their numbers', () => {
    expect(['en-US', 'de-DE', 'hu-HU'].map((locale) => formatDay('2026-03-02', locale))).toEqual([
      'Mar 2, 2026',
      '02.03.2026',
      '2026. márc. 2.',
    ]);
    for (const locale of LOCALES) expect(formatDay('2026-03-02', locale)).toContain('2026');
    writeFiguresAs('de-DE');
    expect(formatDay('2026-12-31')).toBe('31.12.2026');
    expect(['', '2026-02-3', 'soon'].map((none) => formatDay(none))).toEqual(['', '2026-02-3', 'soon']);
  });
});

describe('days as a shop types them', () => {
  it('follow the order of the locale', () => {
    expect(
      ['en-US', 'en-GB', 'de-DE', 'ja-JP', 'lt-LT', 'hu-HU'].map((locale) => typedDayFormat(locale)),
    ).toEqual(['mm/dd/yyyy', 'dd/mm/yyyy', 'dd.mm.yyyy', 'yyyy/mm/dd', 'yyyy-mm-dd', 'yyyy.mm.dd']);
  });

  it.each(LOCALES)('have day, month and year once each in %s, and a week that begins', (locale) => {
    const format = typedDayFormat(locale);
    expect(format).toMatch(/^[dmy]{2,4}([./-])[dmy]{2,4}\1[dmy]{2,4}$/);
    expect([...format.matchAll(/dd|mm|yyyy/g)].map(([part]) => part).sort()).toEqual(['dd', 'mm', 'yyyy']);
    expect([0, 1, 5, 6]).toContain(firstDayOfWeek(locale));
  });
});
