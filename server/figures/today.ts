import { DateTime } from 'luxon';
import type { OddFigure, TodayFigures, Trend } from '../../contract/figures.ts';
import { oddAmong, LEAST_LIKE_DAYS, usualOf } from '../../core/figures/likeDays.ts';
import {
  comparedWith,
  eachDay,
  likeDays,
  nthHour,
  type Comparison,
  type Period,
} from '../../core/figures/period.ts';
import type { Figures, ReportName } from '../../core/figures/reports.ts';
import { iso, saleDay, timeOfDay } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import { readShop } from '../shop/store.ts';
import { lacksOfDay } from './lacks.ts';
import * as store from './todayStore.ts';

/** How many like days are looked at: fewer in a young shop. */
const LOOKED_AT = 12;

const withoutCost = ({ cost: _, ...figures }: Figures): Figures => figures;

/** What the shop did so far today. @param costs whether whoever asks sees what goods cost */
export async function todayFigures(
  sql: Reader,
  at: Date,
  place: number,
  costs: boolean,
): Promise<TodayFigures> {
  const shop = await readShop(sql);
  const day = saleDay(at, shop);
  const there = DateTime.fromJSDate(at, { zone: shop.timezone });
  const [weekBefore = day] = likeDays(day, 1);
  const alike = likeDays(day, LOOKED_AT);
  const hours = await store.soldByHour(sql, [day, ...alike], place);
  const open = alike.filter((one) => hours.some((row) => row.day === one));
  const soldIn = (one: string, hour: number) =>
    hours.find((row) => row.day === one && row.hour === hour)?.sold ?? 0;
  const nth = (hour: number) => nthHour(hour, shop.dayEnds);
  const shownHours = [...new Set([there.hour, ...hours.map(({ hour }) => hour)])];
  const first = Math.min(...shownHours.map(nth));
  const last = Math.max(...shownHours.map(nth));
  const before = await store.soldUntil(sql, {
    day: weekBefore,
    hour: there.hour,
    moment: there.minus({ weeks: 1 }).toUTC().toISO() ?? '',
    place,
    dayEnds: shop.dayEnds,
  });
  const figures = (one: Figures) => (costs ? one : withoutCost(one));
  const waiting = await store.waitingNow(sql, day);
  return {
    day,
    time: timeOfDay(at, shop.timezone),
    now: figures(await store.soldOn(sql, day, place)),
    before: figures(before),
    beforeWhole: figures(await store.soldOn(sql, weekBefore, place)),
    usual: usualOf(open.map((one) => shownHours.reduce((all, hour) => all + soldIn(one, hour), 0))),
    hours: Array.from({ length: last - first + 1 }, (_, at) => (first + at + shop.dayEnds) % 24).map(
      (hour) => ({
        hour,
        now: soldIn(day, hour),
        before: soldIn(weekBefore, hour),
        usual: usualOf(open.map((one) => soldIn(one, hour))),
      }),
    ),
    means: await store.meansOn(sql, day, place),
    customers: await store.customersOn(sql, day, place),
    items: await store.bestItems(sql, day, place),
    drawers: (await store.drawersNow(sql, place)).map((drawer) => ({ ...drawer, since: iso(drawer.since) })),
    waits: [
      {
        words: waiting.held === 1 ? 'basket is held' : 'baskets are held',
        count: waiting.held,
        to: '/waiting',
      },
      {
        words: waiting.promises === 1 ? 'promise is open' : 'promises are open',
        count: waiting.promises,
        to: '/waiting',
      },
      {
        words: waiting.late === 1 ? 'payment is late' : 'payments are late',
        count: waiting.late,
        to: '/waiting',
      },
      {
        words: waiting.deliveries === 1 ? 'delivery is due' : 'deliveries are due',
        count: waiting.deliveries,
        to: '/goods/orders',
      },
    ].filter(({ count }) => count > 0),
    runsOut: await store.runsOut(sql, place),
    odd: await oddOf(sql, day, { place }),
    lacks: costs ? await lacksOfDay(sql) : [],
  };
}

/** What is looked at day by day, from which distance on it is news, and which report shows more. */
const HABITS: Readonly<
  Record<string, { words: string; least: number; money: boolean; report: ReportName; high?: true }>
> = {
  sold: { words: 'Sold', least: 5000, money: true, report: 'days' },
  sales: { words: 'Sales', least: 3, money: false, report: 'hours' },
  discounts: {
    words: 'Discounts that were typed',
    least: 2000,
    money: true,
    report: 'discounts',
    high: true,
  },
  returns: { words: 'Lines that came back', least: 2, money: false, report: 'returns', high: true },
  voids: { words: 'Sales undone', least: 1, money: false, report: 'voids', high: true },
};

/**
 * What on a day is far from what is usual on the same weekdays before, place by place; never about a person. A day
 * that is not over yet can only have too much of something.
 */
export async function oddOf(
  sql: Reader,
  day: string,
  { place: only = 0, over = false }: { place?: number; over?: boolean } = {},
): Promise<OddFigure[]> {
  const alike = likeDays(day, LOOKED_AT);
  const rows = await store.habitFigures(sql, [day, ...alike]);
  const places = [...new Map(rows.map((row) => [row.placeId, row.place]))].filter(
    ([id]) => !only || id === only,
  );
  return places.flatMap(([placeId, place]) => {
    const mine = rows.filter((row) => row.placeId === placeId);
    // A day on which nothing was sold there was no day of that shop.
    const open = alike.filter((one) => mine.some((row) => row.day === one && row.what === 'sales'));
    if (open.length < LEAST_LIKE_DAYS) return [];
    return Object.entries(HABITS).flatMap(([what, { words, least, money, report, high }]): OddFigure[] => {
      const of = (one: string) => mine.find((row) => row.day === one && row.what === what)?.value ?? 0;
      const value = of(day);
      const usual = oddAmong(value, open.map(of), least);
      if (!usual || ((high || !over) && value < usual.median)) return [];
      return [
        {
          what: words,
          day,
          place,
          value,
          money,
          usual,
          like: open.map((one) => ({ day: one, value: of(one) })),
          report,
        },
      ];
    });
  });
}

/** Day by day what was sold, beside another period, with what is usual on like days behind it. */
export async function trend(
  sql: Reader,
  query: Period & { compare: Comparison; place: number; till: number },
): Promise<Trend> {
  const days = eachDay(query);
  const beside = comparedWith(query, query.compare);
  const [earliest = query.from] = likeDays(query.from, LOOKED_AT).slice(-1);
  const sold = new Map(
    (await store.soldByDay(sql, { from: earliest, to: query.to }, query)).map((row) => [row.day, row.sold]),
  );
  const other = new Map(
    beside ? (await store.soldByDay(sql, beside, query)).map((row) => [row.day, row.sold]) : [],
  );
  const otherDays = beside ? eachDay(beside) : [];
  return {
    days: days.map((day, at) => ({
      day,
      sold: sold.get(day) ?? 0,
      before: beside ? (other.get(otherDays[at] ?? '') ?? 0) : null,
      usual: usualOf(likeDays(day, LOOKED_AT).flatMap((one) => sold.get(one) ?? [])),
    })),
    week: await store.soldByWeek(sql, query, query),
  };
}
