import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { ONE } from '../quantity.ts';
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
import { partLine, PLAIN_LINE, type PromiseLine } from './promised.ts';
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
  ...PLAIN_LINE,
  unitPrice: 1_000,
  regular: 3_000,
  net: 2_800,
  tax: 211,
  records: [{ kind: 'discount', amount: -200, why: 'dented' }],
};
const ORDER: OrderLine = { way: 'collect', placeId: 2, place: 'Depot', picked: 0, short: 0, sent: false };
const ordered = (order: Partial<OrderLine>, line: Partial<PromiseLine> = {}): PromiseLine => ({
  ...LINE,
  ...line,
  order: { ...ORDER, ...order },
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
    relay: null,
  };
  const progress: OrderProgress = {
    asked: false,
    firstPayment: 1,
    unready: 3 * ONE,
    short: 0,
    begun: false,
    shipsOnly: false,
    ships: false,
  };
  it.each([
    ['placed', {}, {}],
    ['begun', { paid: 0, held: 0 }, {}],
    ['asked', { paid: 0, held: 0 }, { asked: true }],
    ['placed', { paid: 0, held: 0 }, { firstPayment: 0 }],
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
