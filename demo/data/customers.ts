/** The made-up people of Ferrisport who buy here. */
export interface DemoCustomer {
  name: string;
  company?: string;
  groups?: readonly string[];
  birthday?: readonly [month: number, day: number];
  note?: string;
  tags?: readonly string[];
  /** Since when they have wanted news. */
  news?: string;
  address?: { street: string; postcode: string; city: string };
  /** Has a plastic card; a second one where the first was lost. */
  cards?: 1 | 2;
  /** What they had as store credit when the shop began with these books. */
  credit?: number;
  /** Beats that they had when the shop began with these books. */
  points?: number;
}

export const GROUPS = ['Band Circle', 'Schools and choirs', 'Teachers'] as const;

/** Prices for groups, as a part of the list price in per cent. */
export const GROUP_PRICES: readonly { group: string; category: string; percent: number }[] = [
  { group: 'Schools and choirs', category: 'Recorders', percent: 85 },
  { group: 'Schools and choirs', category: 'Percussion', percent: 90 },
  { group: 'Teachers', category: 'Printed music', percent: 90 },
];

export const CUSTOMERS: readonly DemoCustomer[] = [
  {
    name: 'Priya Hallow',
    groups: ['Band Circle'],
    birthday: [3, 14],
    cards: 1,
    points: 1240,
    news: '2026-01-12',
    tags: ['flute', 'orchestra'],
  },
  {
    name: 'Sam Okonedal',
    groups: ['Band Circle'],
    cards: 2,
    points: 480,
    note: 'Plays left-handed.',
    tags: ['guitar'],
  },
  {
    name: 'Ines Wetherby',
    groups: ['Teachers'],
    birthday: [11, 2],
    cards: 1,
    note: 'Teaches violin upstairs on Tuesdays.',
    tags: ['teacher upstairs', 'violin'],
    news: '2025-09-02',
  },
  { name: 'Kai Lindqvarn', birthday: [7, 30] },
  { name: 'Lou Bramblecote', groups: ['Band Circle'], credit: 3500, points: 900 },
  { name: 'Ash Verrall', groups: ['Band Circle'], birthday: [12, 24], cards: 1 },
  {
    name: 'Marit Solvane',
    company: 'Ferrisport Schools',
    groups: ['Schools and choirs', 'Teachers'],
    tags: ['invoice by mail'],
    address: { street: '4 Harbour Rise', postcode: '20417', city: 'Ferrisport' },
  },
  { name: 'Dorian Pell', company: 'Ferrisport Schools', groups: ['Schools and choirs'] },
  {
    name: 'Agnes Tull',
    company: 'St Orrin Chapel Choir',
    groups: ['Schools and choirs'],
    address: { street: '1 Chapel Steps', postcode: '20418', city: 'Ferrisport' },
  },
  { name: 'Rafe Underhay', birthday: [5, 9], cards: 1 },
  { name: 'Tamsin Ockwell', groups: ['Band Circle'], cards: 1 },
  { name: 'Bo Farrant' },
  { name: 'Yusra Denholme', groups: ['Band Circle'], birthday: [9, 21] },
  { name: 'Otto Grenvale', note: 'Ask before ringing: works nights.' },
  { name: 'Mina Castellow', groups: ['Teachers'], birthday: [2, 17] },
  { name: 'Jory Pendrake', groups: ['Band Circle'], cards: 1 },
  { name: 'Elke Saltonby', birthday: [6, 1] },
  { name: 'Noah Tarrow', credit: 1250 },
  { name: 'Wanda Illescue', groups: ['Band Circle'] },
  { name: 'Pim Rosterholt', birthday: [10, 8] },
  { name: 'Corin Ashgrove', groups: ['Band Circle'], cards: 1 },
  { name: 'Hedy Marchbanks' },
  { name: 'Ivo Quillfeather', birthday: [1, 5] },
  { name: 'Sana Wickmere', groups: ['Teachers'] },
  { name: 'Theo Brandreth', groups: ['Band Circle'] },
  {
    name: 'Lotte Easterbrook-Vandermeulen of the Harbour Street Wind Ensemble',
    company: 'Harbour Street Wind Ensemble',
  },
  { name: 'Gil Sorrento-Haye', birthday: [8, 19] },
  { name: 'Nell Thackray', groups: ['Band Circle'], cards: 1 },
  { name: 'Uma Fenwick', cards: 1 },
  { name: 'Zeb Larkrise', birthday: [4, 27] },
];

/** A house account of the made-up shop. */
export interface DemoAccount {
  /** Whose it is: the name among the customers. */
  owner: string;
  ofCompany?: boolean;
  limit: number;
  asksFor?: string;
  buyers?: readonly { name: string; most: number | null }[];
  /** What was owed when the shop began with these books. */
  owed?: number;
  /** How they pay, a month later. */
  pays: 'all' | 'too-much' | 'never';
}

export const ACCOUNTS: readonly DemoAccount[] = [
  {
    owner: 'Marit Solvane',
    ofCompany: true,
    limit: 90_000,
    asksFor: 'Order number',
    buyers: [
      { name: 'Dorian Pell', most: 15_000 },
      { name: 'Mina Castellow', most: 15_000 },
      { name: 'Sana Wickmere', most: null },
    ],
    owed: 21_450,
    pays: 'all',
  },
  { owner: 'Agnes Tull', ofCompany: true, limit: 130_000, owed: 8_900, pays: 'never' },
  { owner: 'Uma Fenwick', limit: 40_000, pays: 'all' },
  { owner: 'Hedy Marchbanks', limit: 20_000, pays: 'too-much' },
];
