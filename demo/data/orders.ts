/** An order of the made-up shop, from the day it was placed to what became of it. */
export interface DemoOrder {
  customer: string;
  /** Where each thing is picked: 0 is the shop, 1 Quayside, 2 the depot. */
  goods: readonly [number: string, units: number, place: 0 | 1 | 2][];
  /** How many days ago it was placed, at least: the next day on which the shop was open. */
  daysAgo: number;
  /** Collected so many days after today; without it, it is shipped. */
  collectIn?: number;
  time?: string;
  collector?: string;
  ship?: { recipient: string; street: string; postcode: string; city: string; gift: boolean; wishes: string };
  note?: string;
  /** Paid in full when it was placed; a few were placed and left. */
  paid: boolean;
  /** How far it is. */
  end: 'begun' | 'placed' | 'sent' | 'short' | 'ready' | 'handed' | 'cancelled';
}

/** The orders of the made-up shop, in all states. */
export const ORDERS: readonly DemoOrder[] = [
  {
    customer: 'Hedy Marchbanks',
    goods: [['MET-C', 1, 0]],
    daysAgo: 20,
    collectIn: -18,
    time: '11:00',
    paid: true,
    end: 'handed',
  },
  {
    customer: 'Otto Grenvale',
    goods: [
      ['STA-FOLD-BK', 1, 0],
      ['CAR-SO', 1, 0],
    ],
    daysAgo: 12,
    ship: {
      recipient: 'Wilma Corrin',
      street: 'Mill Lane 3',
      postcode: '51200',
      city: 'Dunmere',
      gift: true,
      wishes: 'Leave it with the neighbour',
    },
    paid: true,
    end: 'handed',
  },
  {
    customer: 'Zeb Larkrise',
    goods: [['CAB-RDY-06', 1, 0]],
    daysAgo: 9,
    collectIn: -4,
    time: '16:30',
    paid: true,
    end: 'ready',
  },
  {
    customer: 'Bo Farrant',
    goods: [['STK-OA-5B', 2, 0]],
    daysAgo: 5,
    collectIn: 1,
    time: '10:00',
    collector: 'his sister Ida',
    paid: true,
    end: 'ready',
  },
  {
    customer: 'Rafe Underhay',
    goods: [
      ['CAR-KIT-TR', 1, 1],
      ['STA-FOLD-BK', 1, 0],
    ],
    daysAgo: 3,
    collectIn: 2,
    time: '12:00',
    paid: true,
    end: 'sent',
  },
  {
    customer: 'Kai Lindqvarn',
    goods: [['STA-FOLD-BK', 2, 1]],
    daysAgo: 3,
    collectIn: 3,
    time: '15:00',
    note: 'Black, if there is a choice.',
    paid: true,
    end: 'short',
  },
  {
    customer: 'Hedy Marchbanks',
    goods: [['CAR-SO', 3, 0]],
    daysAgo: 2,
    ship: {
      recipient: 'Hedy Marchbanks',
      street: 'Tanner Row 18',
      postcode: '40155',
      city: 'Ferrisport',
      gift: false,
      wishes: '',
    },
    paid: true,
    end: 'placed',
  },
  {
    customer: 'Zeb Larkrise',
    goods: [['MET-C', 1, 0]],
    daysAgo: 2,
    collectIn: 4,
    time: '09:30',
    paid: true,
    end: 'placed',
  },
  {
    customer: 'Otto Grenvale',
    goods: [['CAR-SO', 1, 0]],
    daysAgo: 4,
    collectIn: 1,
    time: '17:00',
    paid: false,
    end: 'cancelled',
  },
  {
    customer: 'Bo Farrant',
    goods: [['MET-C', 1, 0]],
    daysAgo: 1,
    collectIn: 5,
    time: '11:30',
    paid: false,
    end: 'begun',
  },
];
