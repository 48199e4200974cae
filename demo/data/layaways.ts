import type { Money } from '../../core/money.ts';
import type { Interval } from '../../core/promises/plan.ts';

/** A layaway of the made-up shop, from the day it was made to what became of it. */
export interface Layaway {
  customer: string;
  goods: readonly [number: string, units: number][];
  /** How many days ago it was made, at least: the next day on which the shop was open. */
  daysAgo: number;
  parts: number;
  interval: Interval;
  /** How many parts of the plan were paid, the deposit among them. */
  paid: number;
  fee?: Money;
  note?: string;
  coming?: boolean;
  /** What came to pass at the end. */
  end?: 'handed' | 'part' | 'cancelled' | 'arrived' | 'told';
}

/** The layaways of the made-up shop, in all states. */
export const LAYAWAYS: readonly Layaway[] = [
  {
    customer: 'Hedy Marchbanks',
    goods: [
      ['STA-FOLD-BK', 1],
      ['MET-C', 1],
    ],
    daysAgo: 70,
    parts: 2,
    interval: 'fortnight',
    paid: 3,
    end: 'handed',
  },
  {
    customer: 'Rafe Underhay',
    goods: [
      ['CAR-KIT-TR', 1],
      ['STA-FOLD-BK', 2],
    ],
    daysAgo: 62,
    parts: 3,
    interval: 'fortnight',
    paid: 4,
    note: 'For his daughter: not before her birthday.',
  },
  { customer: 'Zeb Larkrise', goods: [['CAB-RDY-06', 2]], daysAgo: 55, parts: 3, interval: 'month', paid: 1 },
  {
    customer: 'Kai Lindqvarn',
    goods: [
      ['STK-OA-5B', 4],
      ['MET-C', 1],
    ],
    daysAgo: 40,
    parts: 2,
    interval: 'month',
    paid: 2,
    fee: 5_00,
    end: 'part',
  },
  {
    customer: 'Otto Grenvale',
    goods: [
      ['CAS-VI-44', 1],
      ['STR-VI-44', 2],
    ],
    daysAgo: 33,
    parts: 3,
    interval: 'month',
    paid: 1,
    coming: true,
    end: 'arrived',
  },
  {
    customer: 'Uma Fenwick',
    goods: [['MUS-RP1A', 3]],
    daysAgo: 26,
    parts: 2,
    interval: 'fortnight',
    paid: 0,
    end: 'cancelled',
  },
  {
    customer: 'Gil Sorrento-Haye',
    goods: [['STR-UK-SO', 2]],
    daysAgo: 19,
    parts: 2,
    interval: 'month',
    paid: 1,
    end: 'told',
    coming: true,
  },
  {
    customer: 'Elke Saltonby',
    goods: [
      ['CAB-RDY-06', 1],
      ['STA-FOLD-BK', 1],
    ],
    daysAgo: 12,
    parts: 3,
    interval: 'month',
    paid: 1,
  },
  {
    customer: 'Pim Rosterholt',
    goods: [['CAR-KIT-TR', 1]],
    daysAgo: 5,
    parts: 2,
    interval: 'week',
    paid: 1,
    coming: true,
  },
  { customer: 'Bo Farrant', goods: [['MET-C', 1]], daysAgo: 1, parts: 2, interval: 'month', paid: 0 },
];
