import { describe, expect, it } from 'vitest';
import { paperText } from '../journal/paperText.ts';
import { ONE } from '../quantity.ts';
import { orderMessage, orderPaper, packingSlip, pickList, type OrderOnPaper } from './orderPapers.ts';

describe('the papers of an order', () => {
  const order: OrderOnPaper = {
    shop: {
      name: 'Shop',
      words: [],
      thanks: '',
      logo: '',
      terms: [],
      locale: 'en-US',
    } as unknown as OrderOnPaper['shop'],
    number: 'O-0007',
    when: 'today',
    by: 'Noor',
    customer: 'Hedy',
    digits: 2,
    currency: 'USD',
    lines: [
      {
        name: 'Metronome',
        number: 'MET-C',
        quantity: 2 * ONE,
        unit: 'each',
        net: 9_000,
        serial: null,
        note: 'blue',
        way: 'ship',
        place: 'Depot',
        toPick: ONE,
      },
      {
        name: 'Oil',
        number: 'CAR',
        quantity: ONE,
        unit: 'each',
        net: 690,
        serial: null,
        note: '',
        way: 'take',
        place: 'Shop',
        toPick: 0,
      },
    ],
    total: 10_417,
    left: 500,
    note: '',
    collect: null,
    ship: {
      recipient: 'Wilma',
      street: 'Mill Lane 3',
      postcode: '51200',
      city: 'Dunmere',
      phone: '',
      wishes: '',
      gift: true,
      zone: 'Country',
      weight: 800,
    },
  };

  it('say what is taken along and what is shipped where', () => {
    const text = paperText(orderPaper(order));
    for (const words of ['Taken along', '2 × Metronome', 'Wilma', '51200 Dunmere', '*O-0007*', '104.17'])
      expect(text).toContain(words);
  });

  it('list what is still to be picked, place by place', () => {
    const text = paperText(pickList(order));
    expect(text).toContain('Depot');
    expect(text).toContain('1 × Metronome');
    expect(text).not.toContain('Oil');
    expect(paperText(pickList({ ...order, lines: [] }))).toContain('Nothing is left to pick.');
  });

  it('of a gift say no prices in the parcel', () => {
    expect(paperText(packingSlip(order))).not.toContain('90.00');
    expect(paperText(packingSlip(order))).toContain('A gift from Hedy');
    const plain = { ...order, ship: order.ship && { ...order.ship, gift: false } };
    expect(paperText(packingSlip(plain))).toContain('90.00');
  });

  it('tell the customer when and where, and what is left to pay', () => {
    const collect = { place: 'Shop', collector: '', when: 'Friday, 12:00', address: 'Ostler Lane 7' };
    const ready = paperText(
      orderMessage({ ...order, collect, ship: null, goods: 'Metronome', tracking: '', onItsWay: false }),
    );
    for (const words of ['waits for you', 'Friday, 12:00', '5.00 is left to pay', '*O-0007*'])
      expect(ready).toContain(words);
    const gone = paperText(
      orderMessage({ ...order, goods: 'Metronome', tracking: 'CM473124829ZZ', onItsWay: true }),
    );
    expect(gone).toContain('on its way to Wilma');
    expect(gone).toContain('CM473124829ZZ');
  });
});
