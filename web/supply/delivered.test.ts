import { describe, expect, it } from 'vitest';
import { shallowRef } from 'vue';
import type { OrderPage } from '../../contract/supply.ts';
import { useDelivered } from './delivered.ts';

type Line = OrderPage['lines'][number];
const line = (itemId: number, quantity: number, rest: Partial<Line> = {}): Line => ({
  itemId,
  number: `N-${itemId}`,
  name: `Item ${itemId}`,
  unit: 'each',
  decimals: 0,
  serials: false,
  theirNumber: '',
  weight: null,
  codes: [],
  unitCost: 350,
  pack: 1000,
  quantity,
  received: 0,
  reason: '',
  ...rest,
});
const flute = { ...line(9, 0), available: 0 };

function delivery(...lines: Line[]) {
  const order = shallowRef<Pick<OrderPage, 'lines'>>({ lines });
  return { order, ...useDelivered(() => order.value) };
}

describe('what came of an order', () => {
  it('is all that is still to come, but for units that have numbers', () => {
    const { lines } = delivery(
      line(1, 4000),
      line(2, 5000, { received: 2000 }),
      line(3, 2000, { serials: true }),
    );
    expect(lines.value.map(({ open, quantity }) => [open, quantity])).toEqual([
      [4000, 4000],
      [3000, 3000],
      [2000, 0],
    ]);
  });

  it('is what was typed, where another one has taken something in meanwhile, too', () => {
    const { order, lines, put } = delivery(line(1, 4000), line(2, 5000));
    put(1, { quantity: 3000, damaged: 1000 });
    order.value = { lines: [line(1, 4000, { received: 1000 }), line(2, 5000, { received: 3000 })] };
    expect(lines.value.map(({ open, quantity, damaged }) => [open, quantity, damaged])).toEqual([
      [3000, 3000, 1000],
      [2000, 2000, null],
    ]);
  });

  it('begins with nothing when it is counted by scan; what is broken and what it costs stays', () => {
    const { lines, put, countByScan, add } = delivery(line(1, 4000), line(2, 5000));
    put(1, { quantity: 3000, unitCost: 340 });
    countByScan();
    put(2, { quantity: 1000 });
    add(flute);
    expect(lines.value.map(({ itemId, quantity, unitCost }) => [itemId, quantity, unitCost])).toEqual([
      [1, 0, 340],
      [2, 1000, 350],
      [9, 1000, 350],
    ]);
  });

  it('knows each unit once by its number', () => {
    const { lines, addSerial } = delivery(line(1, 2000, { serials: true }));
    for (const serial of ['A1', 'A2', 'A1']) addSerial(1, serial);
    expect(lines.value[0]).toMatchObject({ found: ['A1', 'A2'], quantity: 2000 });
  });

  it('has each item once, where another one has ordered meanwhile what came unordered', () => {
    const { order, lines, add } = delivery(line(1, 4000));
    add(flute);
    order.value = { lines: [line(1, 4000), line(9, 6000)] };
    expect(lines.value.map(({ itemId, ordered, quantity }) => [itemId, ordered, quantity])).toEqual([
      [1, 4000, 4000],
      [9, 6000, 1000],
    ]);
  });
});
