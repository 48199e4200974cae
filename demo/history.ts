import { DateTime } from 'luxon';
import type { BasketLine } from '../core/counter/basket.ts';
import { RETURN_REASONS, type Condition } from '../core/journal/returns.ts';
import type { Money } from '../core/money.ts';
import { ONE } from '../core/quantity.ts';
import type { Rate } from '../core/rate.ts';
import type { DemoItem } from './goods.ts';
import { seeded } from './random.ts';

/** One sale as it will be rung up: what was bought, when and by whom. */
export interface PastSale {
  at: Date;
  /** Which of the customers, if one was named. */
  customer: number | null;
  lines: { number: string; quantity: number }[];
  /** What it does to layaways. */
  promised?: readonly BasketLine[];
  /** Whether it was paid with the exact amount. */
  exact: boolean;
  way?: PastWay;
}

/** A part of the whole that somebody took off, and why. */
export interface PastDiscount {
  rate: Rate;
  reason: string;
}

/** What is not as most often about a past sale, which is paid in cash and stays. */
export interface PastWay {
  pays?: 'noted-card' | 'cheque' | 'stored-value';
  /** The total is rounded up for the fund. */
  gives?: boolean;
  discount?: PastDiscount;
  /** A gift card of so much is sold with it. */
  card?: Money;
  /** Nothing is bought: something that was bought some day before comes back. */
  back?: { reason: string; condition: Condition };
  /** It was rung up by mistake. */
  voided?: boolean;
}

/** One shift of a till on a day. */
export interface PastShift {
  till: number;
  place: number;
  cashier: number;
  openedAt: Date;
  closedAt: Date;
  sales: PastSale[];
  /** Counted minus expected. */
  variance: number;
}

const SEED = 12;
const TIMEZONE = 'America/New_York';

/** How busy a day is, from Monday on; the shop is closed on Sundays. */
const WEEKDAYS = [0.7, 0.8, 0.9, 1, 1.25, 1.8, 0];

/** How many sales a usual day has on each till, and where it stands. */
const TILLS = [
  { till: 1, place: 0, usual: 9 },
  { till: 2, place: 0, usual: 5 },
  { till: 3, place: 1, usual: 6 },
];

/** School begins in September, presents are bought in December. */
const seasonOf = (month: number): number =>
  ({ 9: 1.3, 10: 1.1, 11: 1.15, 12: 1.5, 7: 0.8, 8: 0.9 })[month] ?? 1;

/** How likely goods of a category are bought, beside others. */
const POPULAR: Readonly<Record<string, number>> = {
  Reeds: 8,
  Strings: 7,
  'Printed music': 6,
  Care: 5,
  Sticks: 4,
  Picks: 4,
  Lessons: 4,
  'Metronomes and tuners': 2,
  Stands: 2,
  Straps: 2,
};

/**
 * The weeks before a day, the same for the same seed and day.
 * @param customers how many customers the shop knows
 */
export function pastWeeks(
  goods: readonly DemoItem[],
  weeks: number,
  until: Date,
  customers: number,
): PastShift[] {
  const random = seeded(SEED);
  const chance = seeded(SEED + 1);
  const sold = goods.filter(
    (item) => item.kind === 'goods' && item.price && !item.serials && item.decimals === 0,
  );
  const draw = drawByWeight(
    sold,
    ({ category, price }) => (POPULAR[category] ?? 1) / Math.sqrt((price ?? 1) / 100),
  );
  const today = DateTime.fromJSDate(until, { zone: TIMEZONE }).startOf('day');

  return Array.from({ length: weeks * 7 }, (_, at) => today.minus({ days: weeks * 7 - at })).flatMap((day) =>
    TILLS.flatMap(({ till, place, usual }): PastShift[] => {
      const busy = (WEEKDAYS[day.weekday - 1] ?? 0) * seasonOf(day.month) * (0.7 + random() * 0.6);
      if (busy === 0) return [];
      const count = Math.round(usual * busy);
      const minutes = Array.from({ length: count }, () => Math.floor(random() ** 0.8 * 470)).sort(
        (a, b) => a - b,
      );
      const sales = minutes.map((minute): PastSale => ({
        at: day.plus({ hours: 9, minutes: 30 + minute, seconds: Math.floor(random() * 60) }).toJSDate(),
        customer: random() < 0.35 ? Math.floor(random() ** 1.15 * customers) : null,
        lines: Array.from({ length: 1 + Math.floor(random() ** 2 * 4) }, () => ({
          number: draw(random()).number,
          quantity: ONE * (random() < 0.8 ? 1 : 2 + Math.floor(random() * 3)),
        })),
        exact: random() < 0.4,
      }));
      const ways = sales.map((sale): PastSale => ({ ...sale, way: wayOf(sale, chance) }));
      if (chance() < 0.3) ways.push(comingBack(day, chance));
      return [
        {
          till,
          place,
          cashier: random() < 0.5 ? 0 : 1,
          openedAt: day.plus({ hours: 9, minutes: 10 }).toJSDate(),
          closedAt: day.plus({ hours: 17, minutes: 45 + Math.floor(random() * 12) }).toJSDate(),
          sales: ways.toSorted((a, b) => a.at.getTime() - b.at.getTime()),
          variance: random() < 0.8 ? 0 : Math.round((random() - 0.6) * 12) * 100 + (random() < 0.3 ? 5 : 0),
        },
      ];
    }),
  );
}

const DISCOUNTS: readonly PastDiscount[] = [
  { rate: 100_000, reason: 'Dented box' },
  { rate: 150_000, reason: 'Display piece' },
  { rate: 50_000, reason: 'Waited long' },
];
const GIFT_CARDS: readonly Money[] = [25_00, 50_00, 100_00];

const oneOf = <T>(list: readonly T[], chance: () => number): T =>
  list[Math.floor(chance() * list.length)] as T;

/** How a sale goes: half are paid by card, some otherwise, and a few are not like the others. */
function wayOf({ customer }: PastSale, chance: () => number): PastWay {
  const [paid, gives, reduced, gift, mistaken] = [chance(), chance(), chance(), chance(), chance()];
  if (customer === null && mistaken < 0.01) return { voided: true };
  return {
    ...(paid < 0.5 && { pays: 'noted-card' }),
    ...(paid >= 0.5 && paid < 0.52 && { pays: 'cheque' }),
    ...(paid >= 0.52 && paid < 0.56 && { pays: 'stored-value' }),
    ...(gives < 0.06 && { gives: true }),
    ...(reduced < 0.03 && { discount: oneOf(DISCOUNTS, chance) }),
    ...(gift < 0.02 && { card: oneOf(GIFT_CARDS, chance) }),
  };
}

/** Somebody comes with goods of some day before. */
const comingBack = (day: DateTime, chance: () => number): PastSale => ({
  at: day.plus({ hours: 11, minutes: Math.floor(chance() * 300) }).toJSDate(),
  customer: null,
  lines: [],
  exact: true,
  way: {
    back: { reason: oneOf(RETURN_REASONS, chance), condition: chance() < 0.8 ? 'to-stock' : 'damaged' },
  },
});

/** What was sold of each item at each place, in thousandths. */
export function soldQuantities(shifts: readonly PastShift[]): Map<string, number> {
  const sold = new Map<string, number>();
  for (const { place, sales } of shifts) {
    for (const { number, quantity } of sales.flatMap(({ lines }) => lines)) {
      const key = `${place} ${number}`;
      sold.set(key, (sold.get(key) ?? 0) + quantity);
    }
  }
  return sold;
}

function drawByWeight<T>(list: readonly T[], weightOf: (one: T) => number): (at: number) => T {
  let total = 0;
  const ends = list.map((one) => (total += weightOf(one)));
  return (at) =>
    list[
      Math.max(
        0,
        ends.findIndex((end) => end >= at * total),
      )
    ] as T;
}
