import type { FirstOrder } from '../../devices/webShop/standIn.ts';

/** The web shop of the made-up shop, and the key that it sends with: it opens nothing but this shop. */
export const DEMO_CHANNEL = {
  name: 'Web shop',
  prefix: 'WEB',
  pay: 'deposit',
  leastDeposit: 250_000,
  active: true,
} as const;
export const DEMO_CHANNEL_KEY = '5d1f0c3a9b7e48d2a6c4e0f18b3d5972c1e8a7f60b4d92e35f7c8a1d6e0b3f94';

/** What customers have ordered there: one has paid, the deposit of the other is missing. */
export const DEMO_WEB_ORDERS: readonly FirstOrder[] = [
  {
    typed: {
      name: 'Ottilie Brandreth',
      mail: 'ottilie@reader.example',
      pay: 'now',
      note: 'For the school band',
    },
    goods: [
      ['PAD-12', 1],
      ['RPK-BC-25', 2],
    ],
  },
  {
    typed: { name: 'Corwin Ashdale', mail: 'corwin@harbour.example', pay: 'fails' },
    goods: [['TAM-10', 1]],
  },
];
