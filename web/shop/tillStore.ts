import { defineStore } from 'pinia';
import { until } from '@vueuse/core';
import { computed, ref, shallowRef } from 'vue';
import type { TillFacts } from '../../contract/setup.ts';
import { formatDay, writeFiguresAs } from '../../core/locale.ts';
import { formatTimeOfDay } from '../../core/timeOfDay.ts';
import { formatMoney, plainMoney, type Money } from '../../core/money.ts';
import { read } from '../net/api.ts';
import { lastAnswer } from '../net/lastAnswer.ts';
import { houseNow, setHouseClock } from './houseClock.ts';
import { shopDay } from './shopDay.ts';

/** The shop as this till knows it. */
export const useTillStore = defineStore('till', () => {
  const facts = shallowRef<TillFacts | null>(null);
  /** Whether what this till needs is still being fetched: its basket is not known yet. */
  const preparing = ref(false);
  const prepared = (): Promise<false> => until(preparing).toBe(false);
  const digits = computed(() => facts.value?.currency.digits ?? 2);

  const lastAsked = lastAnswer();
  /** Reads them again. @returns those that were asked for last: they may be changed while they are on their way */
  async function load(): Promise<TillFacts> {
    const found = await lastAsked(read<TillFacts>('/setup/till'));
    if (found) {
      setHouseClock(found);
      writeFiguresAs(found.shop.locale);
      facts.value = found;
    }
    return facts.value ?? load();
  }

  const money = (amount: Money) => formatMoney(amount, digits.value);

  /** How an amount is typed here, for messages. @param units of the currency, not of its minor unit */
  const example = (units: number) => plainMoney(Math.ceil(units * 10 ** digits.value), digits.value);

  /** A point in time as the shop's clock shows it. */
  function time(iso: string, style: 'time' | 'full' = 'time'): string {
    const { locale = 'en-US', timezone: timeZone = 'UTC' } = facts.value?.shop ?? {};
    const format: Intl.DateTimeFormatOptions =
      style === 'time' ? { hour: 'numeric', minute: '2-digit' } : { dateStyle: 'medium', timeStyle: 'short' };
    return new Intl.DateTimeFormat(locale, { ...format, calendar: 'gregory', timeZone }).format(
      new Date(iso),
    );
  }

  /** The shop's calendar day now, `YYYY-MM-DD`. */
  const today = (): string => shopDay(houseNow(), facts.value?.shop.timezone ?? 'UTC');

  /** A time of day, `14:30`, as the shop writes it; no line ends within it. */
  const timeOfDay = (written: string): string =>
    formatTimeOfDay(written, facts.value?.shop.locale).replaceAll(' ', '\u00a0');

  /** A calendar day as the shop writes it. */
  function day(at: Date): string {
    const { locale = 'en-US', timezone: timeZone = 'UTC' } = facts.value?.shop ?? {};
    return new Intl.DateTimeFormat(locale, { calendar: 'gregory', dateStyle: 'long', timeZone }).format(at);
  }

  /** A day of the calendar, `YYYY-MM-DD`, as the shop writes it. */
  const calendarDay = (written: string): string => formatDay(written, facts.value?.shop.locale);

  return {
    facts,
    preparing,
    prepared,
    digits,
    load,
    money,
    example,
    time,
    timeOfDay,
    today,
    day,
    calendarDay,
  };
});
