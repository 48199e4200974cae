import type { OrderSettings, PlaceDetails } from '../contract/orders.ts';
import type { Writer } from '../server/db/database.ts';
import { putWeights } from '../server/goods/store.ts';
import { putOrderRules, putPlaceDetails } from '../server/promises/orderStore.ts';
import type { DemoItem } from './goods.ts';

const open = (from: string, to: string) => ({ from, to });
const WEEK = [...Array.from({ length: 5 }, () => open('09:00', '18:00')), open('09:00', '17:00'), null];

/** Where the places of the made-up shop are: its coast is on no map. */
const PLACES: readonly PlaceDetails[] = [
  {
    street: '7 Ostler Lane',
    postcode: '40112',
    city: 'Ferrisport',
    latitude: 42.0312,
    longitude: -66.1204,
    hours: WEEK,
  },
  {
    street: '2 Quayside',
    postcode: '40140',
    city: 'Ferrisport',
    latitude: 42.0187,
    longitude: -66.0893,
    hours: [...Array.from({ length: 6 }, () => open('10:00', '19:00')), open('12:00', '17:00')],
  },
  {
    street: '31 Rope Walk',
    postcode: '40177',
    city: 'Ferrisport',
    latitude: 42.0679,
    longitude: -66.2011,
    hours: [],
  },
];

const RULES: Omit<OrderSettings, 'shippingTaxCategoryId'> = {
  pay: 'full',
  leastDeposit: 250_000,
  leadMinutes: 60,
  usualWeight: 400,
  zones: [
    {
      name: 'Ferrisport',
      postcodes: ['401'],
      steps: [
        { upTo: 2_000, fee: 4_50 },
        { upTo: 20_000, fee: 9_00 },
      ],
    },
    {
      name: 'The country',
      postcodes: [],
      steps: [
        { upTo: 1_000, fee: 6_90 },
        { upTo: 5_000, fee: 11_50 },
        { upTo: 20_000, fee: 24_00 },
      ],
    },
  ],
};

/** What goods of a category weigh, in grams; of the others it is not known. */
const WEIGHTS: Readonly<Record<string, number>> = {
  Strings: 60,
  Reeds: 40,
  Picks: 10,
  Sticks: 120,
  Care: 150,
  Cables: 300,
  'Printed music': 350,
  Clarinets: 1_100,
  Violins: 1_400,
  Stands: 1_800,
  Brass: 2_400,
  Guitars: 3_200,
  Cellos: 6_500,
};

/** Lays down where the places are, what goods weigh, and how orders are taken. */
export async function layOrderSetup(
  sql: Writer,
  goods: readonly DemoItem[],
  shop: { places: readonly number[]; taxCategoryId: number },
): Promise<void> {
  for (const [at, details] of PLACES.entries()) await putPlaceDetails(sql, shop.places[at] ?? 0, details);
  await putOrderRules(sql, { ...RULES, shippingTaxCategoryId: shop.taxCategoryId });
  await putWeights(
    sql,
    goods.flatMap(({ number, category }) => {
      const weight = WEIGHTS[category];
      return weight === undefined ? [] : [{ number, weight }];
    }),
  );
}
