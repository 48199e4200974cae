import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { paperText } from '../journal/paperText.ts';
import { ONE } from '../quantity.ts';
import { collectProblem, collectTimes, firstCollectTime, type CollectFacts } from './collecting.ts';
import {
  canBeSent,
  collectReady,
  leaveProblem,
  pickProblem,
  sentProblem,
  sourceProblem,
  toFind,
  toPick,
} from './may.ts';
import { orderDeposit, orderKeeps } from './order.ts';
import { orderLines, wayProblem, type OrderPlaces } from './orderLines.ts';
import { orderMessage, orderPaper, packingSlip, pickList, type OrderOnPaper } from './orderPapers.ts';
import { partLine, type PromiseLine } from './promised.ts';
import { formatWeight, shipFee, weightOf, zoneOf, type ShipZone } from './shipping.ts';
import { distanceKm, sortSources, suggestSources, type Source } from './sources.ts';
import { promiseState, wantsAttention, type OrderProgress, type PromiseFacts } from './state.ts';
import type { OrderLine } from './ways.ts';

const LINE: PromiseLine = {
  position: 1,
  itemId: 7,
  number: 'MET-C',
  name: 'Metronome',
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
  quantity: 3 * ONE,
  handed: 0,
  unitPrice: 1_000,
  regular: 3_000,
  net: 2_800,
  tax: 211,
  records: [{ kind: 'discount', amount: -200, why: 'dented' }],
  serial: null,
  note: '',
  gift: false,
  ageChecked: false,
  bundle: null,
  order: null,
};
const ORDER: OrderLine = { way: 'collect', placeId: 2, place: 'Depot', picked: 0, short: 0, sent: false };
const ordered = (order: Partial<OrderLine>, line: Partial<PromiseLine> = {}): PromiseLine => ({
  ...LINE,
  ...line,
  order: { ...ORDER, ...order },
});

describe('distances', () => {
  it('are those of the great circle: a quarter of the meridian is 10,007.5 km', () => {
    expect(distanceKm({ latitude: 0, longitude: 0 }, { latitude: 90, longitude: 0 })).toBeCloseTo(
      10_007.56,
      1,
    );
    expect(distanceKm({ latitude: 0, longitude: 0 }, { latitude: 0, longitude: 180 })).toBeCloseTo(
      20_015.1,
      1,
    );
  });

  it('are the same both ways, and never below zero', () => {
    const point = fc.record({
      latitude: fc.double({ min: -90, max: 90, noNaN: true }),
      longitude: fc.double({ min: -180, max: 180, noNaN: true }),
    });
    fc.assert(
      fc.property(point, point, (a, b) => {
        expect(distanceKm(a, b)).toBeCloseTo(distanceKm(b, a), 6);
        expect(distanceKm(a, b)).toBeGreaterThanOrEqual(0);
        expect(distanceKm(a, b)).toBeLessThanOrEqual(20_015.2);
      }),
    );
  });
});

const source = (placeId: number, available: number, longitude: number | null): Source => ({
  placeId,
  place: `P${placeId}`,
  at: longitude === null ? null : { latitude: 0, longitude },
  available: available * ONE,
});
const HERE = { latitude: 0, longitude: 0 };

describe('where goods come from', () => {
  const sources = [source(3, 9, 5), source(1, 1, 0), source(2, 4, 1), source(4, 4, null)];

  it('is listed by stock, distance or name; what is nowhere comes last', () => {
    const order = (by: 'stock' | 'distance' | 'name') =>
      sortSources(sources, by, HERE).map(({ placeId }) => placeId);
    expect(order('stock')).toEqual([3, 2, 4, 1]);
    expect(order('distance')).toEqual([1, 2, 3, 4]);
    expect(order('name')).toEqual([1, 2, 3, 4]);
    expect(sortSources(sources, 'distance', null).map(({ km }) => km)).toEqual([null, null, null, null]);
  });

  it('is the nearest place that has all, else as few as it takes', () => {
    expect(suggestSources(2 * ONE, sources, HERE)).toEqual({
      parts: [{ placeId: 2, quantity: 2 * ONE }],
      missing: 0,
    });
    expect(suggestSources(12 * ONE, sources, HERE).parts.map(({ placeId }) => placeId)).toEqual([3, 2]);
    expect(suggestSources(20 * ONE, sources, HERE).missing).toBe(2 * ONE);
  });

  it('adds up to what is wanted, and takes no more than a place has', () => {
    const some = fc.array(
      fc.record({
        placeId: fc.nat(20),
        available: fc.integer({ min: -5, max: 20 }),
        at: fc.option(fc.nat(100)),
      }),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(some, fc.integer({ min: 1, max: 50 }), (list, wanted) => {
        const places = list.map(({ placeId, available, at }, nth) =>
          source(placeId + 100 * nth, available, at),
        );
        const { parts, missing } = suggestSources(wanted * ONE, places, HERE);
        expect(sum(parts.map(({ quantity }) => quantity)) + missing).toBe(wanted * ONE);
        expect(missing).toBeGreaterThanOrEqual(0);
        for (const { placeId, quantity } of parts) {
          expect(quantity).toBeGreaterThan(0);
          expect(quantity).toBeLessThanOrEqual(places.find((one) => one.placeId === placeId)?.available ?? 0);
        }
      }),
    );
  });
});

describe('times of collection', () => {
  const week = [...Array.from({ length: 6 }, () => ({ from: '09:00', to: '17:00' })), null];
  // A Saturday.
  const facts: CollectFacts = { hours: week, leadMinutes: 120, now: { day: '2026-03-07', time: '15:40' } };

  it('lie within opening hours, and not before the goods can be there', () => {
    expect(collectProblem({ day: '2026-03-07', time: '17:00' }, facts)).toContain(
      'cannot be ready before 17:40',
    );
    expect(collectProblem({ day: '2026-03-08', time: '10:00' }, facts)).toBe(
      'The place is closed on Sundays.',
    );
    expect(collectProblem({ day: '2026-03-09', time: '08:30' }, facts)).toBe(
      'It is open from 09:00 to 17:00.',
    );
    expect(collectProblem({ day: '2026-03-09', time: '09:00' }, facts)).toBeNull();
    expect(collectProblem({ day: '2026-09-09', time: '09:00' }, facts)).toBe('At most 90 days ahead.');
    expect(collectProblem({ day: '', time: '09:00' }, facts)).toBe('When are the goods collected?');
    expect(collectProblem({ day: '2026-03-08', time: '03:00' }, { ...facts, hours: [] })).toBeNull();
  });

  it('begin with the first that can be; where it is always closed there is none', () => {
    expect(firstCollectTime(facts)).toEqual({ day: '2026-03-09', time: '09:00' });
    expect(firstCollectTime({ ...facts, leadMinutes: 20 })).toEqual({ day: '2026-03-07', time: '16:00' });
    expect(firstCollectTime({ ...facts, hours: Array.from({ length: 7 }, () => null) })).toBeNull();
    expect(collectTimes('2026-03-09', facts)).toHaveLength(17);
    expect(collectTimes('2026-03-08', facts)).toEqual([]);
  });

  it('that are offered are never refused', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 20 }),
        fc.integer({ min: 0, max: 3000 }),
        (ahead, leadMinutes) => {
          const day = new Date(Date.UTC(2026, 2, 7 + ahead)).toISOString().slice(0, 10);
          for (const time of collectTimes(day, { ...facts, leadMinutes }))
            expect(collectProblem({ day, time }, { ...facts, leadMinutes })).toBeNull();
        },
      ),
    );
  });
});

describe('shipping', () => {
  const zones: ShipZone[] = [
    { name: 'Town', postcodes: ['401'], steps: [{ upTo: 2_000, fee: 450 }] },
    { name: 'Harbour', postcodes: ['40177'], steps: [{ upTo: 2_000, fee: 300 }] },
    {
      name: 'Country',
      postcodes: [],
      steps: [
        { upTo: 1_000, fee: 690 },
        { upTo: 5_000, fee: 1_150 },
      ],
    },
  ];

  it('costs what the zone that names most of the postcode says for the weight', () => {
    expect(zoneOf(zones, '401 12')?.name).toBe('Town');
    expect(zoneOf(zones, '40177')?.name).toBe('Harbour');
    expect(shipFee(zones, '90210', 1_000)).toEqual({ zone: 'Country', fee: 690 });
    expect(shipFee(zones, '90210', 1_001)).toEqual({ zone: 'Country', fee: 1_150 });
    expect(shipFee(zones, '90210', 5_001)).toBe(
      'To Country a parcel weighs at most 5 kg; this one has 5.001 kg.',
    );
    expect(shipFee(zones.slice(0, 1), '90210', 100)).toBe('The shop does not ship there.');
  });

  it('weighs all that is in it, rounded up; what is not known weighs what items usually do', () => {
    expect(
      weightOf(
        [
          { weight: 100, quantity: 2_500 },
          { weight: null, quantity: ONE },
        ],
        400,
      ),
    ).toBe(650);
    expect(weightOf([{ weight: 3, quantity: 500 }], 0)).toBe(2);
    expect(formatWeight(450)).toBe('0.45 kg');
  });
});

describe('what is paid for an order', () => {
  it('is all of it, a part or nothing, as the shop says', () => {
    const rules = { pay: 'deposit' as const, leastDeposit: 250_000 };
    expect(orderDeposit(rules, 999)).toBe(250);
    expect(orderDeposit({ ...rules, pay: 'full' }, 999)).toBe(999);
    expect(orderDeposit({ ...rules, pay: 'handover' }, 999)).toBe(0);
    expect([orderKeeps(rules), orderKeeps({ ...rules, pay: 'full' })]).toEqual([250_000, 1_000_000]);
  });
});

describe('the lines of an order', () => {
  const places: OrderPlaces = { here: 1, collectAt: 1, nameOf: (id) => `P${id}` };
  const collect = (parts: [number, number][], missing = 0) => ({
    way: 'collect' as const,
    parts: parts.map(([placeId, units]) => ({ placeId, quantity: units * ONE })),
    missing: missing * ONE,
  });

  it('are one for each place, and what is missing waits where it is collected', () => {
    const lines = orderLines(
      LINE,
      collect(
        [
          [2, 1],
          [1, 1],
        ],
        1,
      ),
      places,
      true,
    );
    expect(
      lines.map(({ quantity, order }) => [quantity / ONE, order?.placeId, (order?.short ?? 0) / ONE]),
    ).toEqual([
      [1, 2, 0],
      [2, 1, 1],
    ]);
    expect(orderLines(LINE, { way: 'take', parts: [], missing: 0 }, places, true)).toMatchObject([
      { quantity: 3 * ONE, order: { way: 'take', placeId: 1, picked: 3 * ONE } },
    ]);
    expect(orderLines(LINE, collect([]), places, false)).toMatchObject([
      { order: { placeId: 1, picked: 3 * ONE } },
    ]);
  });

  it('cost together what was promised, to the cent, however a line is parted', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 99_999 }),
        fc.integer({ min: 1, max: 9_999 }),
        fc.nat(2_999),
        (net, tax, cut) => {
          const line = { ...LINE, regular: net + 200, net, tax };
          const [first, rest] = partLine(line, cut + 1);
          for (const what of ['net', 'tax', 'regular', 'quantity'] as const)
            expect(first[what] + rest[what]).toBe(line[what]);
          for (const part of [first, rest])
            expect(part.regular + sum(part.records.map(({ amount }) => amount))).toBe(part.net);
        },
      ),
    );
  });

  it('are refused where they do not add up', () => {
    expect(wayProblem(LINE, collect([[2, 3]]), places)).toBeNull();
    expect(wayProblem(LINE, collect([[2, 2]]), places)).toBe('Say where all 3 of Metronome come from.');
    expect(
      wayProblem(
        LINE,
        collect([
          [2, 1],
          [2, 2],
        ]),
        places,
      ),
    ).toBe('Metronome names a place twice.');
    expect(wayProblem(LINE, collect([[2, 3]]), { ...places, collectAt: null })).toBe(
      'Where is Metronome collected?',
    );
    expect(wayProblem({ ...LINE, serial: 'A1' }, collect([[2, 2]], 1), places)).toContain(
      'one piece with a number',
    );
    expect(wayProblem(LINE, { way: 'take', parts: [], missing: ONE }, places)).toContain(
      'taken along from here',
    );
  });
});

describe('what may become of a line of an order', () => {
  it('is picked once, elsewhere while it is missing, and sent when all of it was found', () => {
    const fresh = ordered({});
    expect([toPick(fresh), toFind(fresh)]).toEqual([3 * ONE, 3 * ONE]);
    expect(toFind(ordered({ picked: ONE, short: 2 * ONE }))).toBe(0);
    expect(pickProblem(fresh, 4 * ONE)).toBe('Of Metronome 3 are still to be picked.');
    expect(pickProblem(fresh, 2 * ONE)).toBeNull();
    expect(pickProblem(ordered({ picked: 3 * ONE }), ONE)).toBe('Metronome was picked already.');
    expect(pickProblem(LINE, ONE)).toBe('Only orders are picked.');
    expect(sourceProblem(fresh, 2)).toBe('Metronome is picked at Depot already.');
    expect(sourceProblem(fresh, 1)).toBeNull();
    expect(sourceProblem(ordered({ picked: 3 * ONE }), 1)).toBe('Metronome was picked already.');
    expect(canBeSent(fresh, 1)).toBe(false);
    expect(canBeSent(ordered({ picked: 3 * ONE }), 1)).toBe(true);
    expect(canBeSent(ordered({ picked: 3 * ONE }), 2)).toBe(false);
    expect(canBeSent(ordered({ picked: 3 * ONE, way: 'ship' }), 1)).toBe(false);
  });

  it('leaves where it lies; what is on the way does not, nor is it given up', () => {
    const sent = ordered({ picked: 3 * ONE, sent: true });
    expect(leaveProblem(ordered({}), 2)).toBeNull();
    expect(leaveProblem(ordered({}), 1)).toBe('Metronome is at Depot: have it sent here first.');
    expect(leaveProblem(ordered({ way: 'ship' }), 1)).toBeNull();
    expect(leaveProblem(LINE, 1)).toBeNull();
    expect(leaveProblem(sent, 2)).toContain('on the way');
    expect(sentProblem([LINE, sent])).toContain('on the way');
    expect(sentProblem([LINE])).toBeNull();
  });
});

describe('what is collected of an order', () => {
  it('is ready when all of it lies there, whatever becomes of what is shipped', () => {
    const there = ordered({ picked: 3 * ONE, placeId: 1 });
    const shipped = ordered({ way: 'ship' });
    expect(collectReady([there, shipped, LINE], 1)).toBe(true);
    expect(collectReady([there, ordered({ placeId: 1 })], 1)).toBe(false);
    expect(collectReady([ordered({ picked: 3 * ONE })], 1)).toBe(false);
    expect(collectReady([ordered({ picked: 3 * ONE, placeId: 1, sent: true })], 1)).toBe(false);
    expect(collectReady([shipped], 1)).toBe(false);
    expect(collectReady([ordered({ picked: 3 * ONE, placeId: 1 }, { handed: 3 * ONE })], 1)).toBe(false);
  });
});

describe('the state of an order', () => {
  const facts: PromiseFacts = {
    cancelledAt: null,
    units: 3 * ONE,
    handed: 0,
    rest: 3_000,
    held: 3_000,
    paid: 3_000,
    coming: false,
    arrivedAt: null,
    toldAt: null,
    order: null,
  };
  const progress: OrderProgress = {
    payFirst: true,
    unready: 3 * ONE,
    short: 0,
    begun: false,
    shipsOnly: false,
    ships: false,
  };
  it.each([
    ['placed', {}, {}],
    ['begun', { paid: 0, held: 0 }, {}],
    ['placed', { paid: 0, held: 0 }, { payFirst: false }],
    ['picking', {}, { begun: true }],
    ['short', {}, { begun: true, short: ONE }],
    ['ready', {}, { begun: true, unready: 0 }],
    ['part', { handed: ONE }, {}],
    ['handed', { handed: 3 * ONE }, { unready: 0 }],
    ['shipped', { handed: 3 * ONE }, { unready: 0, shipsOnly: true }],
    ['cancelled', { cancelledAt: 'then' }, {}],
  ] as const)('is %s', (state, some, order) => {
    expect(promiseState({ ...facts, ...some, order: { ...progress, ...order } })).toBe(state);
  });

  it('wants attention until it lies ready to be collected, and when nobody comes', () => {
    expect(wantsAttention('placed', 0, progress)).toBe(true);
    expect(wantsAttention('ready', 0, progress)).toBe(false);
    expect(wantsAttention('ready', 2, progress)).toBe(true);
    expect(wantsAttention('ready', 0, { ships: true })).toBe(true);
    expect(wantsAttention('shipped', 2, { ships: true })).toBe(false);
  });
});

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
