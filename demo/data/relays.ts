/** An order of the made-up shop that a partner carries out. */
export interface DemoRelay {
  customer: string;
  /** The code of the partner. */
  partner: string;
  goods: string;
  price: number;
  part: number;
  recipient: string;
  street: string;
  postcode: string;
  city: string;
  wishes: string;
  card: string;
  /** Delivered so many days after today. */
  dayIn: number;
  /** Why the partner has refused it, where it has. */
  refused?: string;
}

/** An order that a partner passes to the made-up shop, and that nobody has answered. */
export const PASSED_ON = {
  reference: '5d0c6a1e-7d0b-4f57-9a51-1f6a3f0c2b11',
  number: 'TALLIS-1',
  partner: 'TALLIS',
  goods: 'A descant recorder, boxed as a gift',
  part: 29_00,
  recipient: 'Ivo Penhale',
  street: 'Reed Street 8',
  postcode: '40115',
  city: 'Ostler Bridge',
  phone: '555-0144',
  wishes: 'After five, please',
  card: 'For the school concert',
};
/** It is to be there so many days after today. */
export const PASSED_ON_DAYS = 3;

export const RELAYS: readonly DemoRelay[] = [
  {
    customer: 'Hedy Marchbanks',
    partner: 'CORRAN',
    goods: 'A soprano recorder in a cloth bag',
    price: 45_00,
    part: 36_00,
    recipient: 'Wilma Corrin',
    street: 'Mill Lane 3',
    postcode: '51200',
    city: 'Dunmere',
    wishes: 'Before noon, if that can be',
    card: 'For your first lesson. Hedy',
    dayIn: 2,
  },
  {
    customer: 'Bo Farrant',
    partner: 'TALLIS',
    goods: 'Two packs of clarinet reeds, strength 2½',
    price: 58_00,
    part: 43_50,
    recipient: 'Edda Farrant',
    street: 'Harbour Row 12',
    postcode: '77410',
    city: 'Wexcombe',
    wishes: '',
    card: 'Play loud! Bo',
    dayIn: 0,
    refused: 'Past today’s cut-off: tomorrow we can.',
  },
];
