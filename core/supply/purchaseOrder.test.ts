import { describe, expect, it } from 'vitest';
import { deliveryNumber, orderNumber, orderWords, reliability, stillToCome } from './purchaseOrder.ts';

describe('an order to a supplier', () => {
  it('says how far it is', () => {
    const line = (quantity: number, received: number) => ({ quantity, received });
    expect(orderWords('draft', [])).toBe('Draft');
    expect(orderWords('sent', [line(5, 0)])).toBe('Sent');
    expect(orderWords('sent', [line(5, 2), line(1, 0)])).toBe('Part of it came');
    expect(orderWords('closed', [line(5, 2)])).toBe('Closed, not all of it came');
    expect(orderWords('closed', [line(5, 0)])).toBe('Closed');
    expect(orderWords('closed', [line(5, 6)])).toBe('Received');
    expect(stillToCome(line(5, 7))).toBe(0);
  });

  it('has a number that is told from a delivery’s', () => {
    expect([orderNumber(7), deliveryNumber(12345)]).toEqual(['B-0007', 'E-12345']);
  });

  it('tells how fast and how complete a supplier delivers', () => {
    expect(
      reliability([
        { ordered: 10, received: 10, days: 4 },
        { ordered: 10, received: 5, days: 7 },
        { ordered: 20, received: 30, days: null },
      ]),
    ).toEqual({ orders: 3, days: 6, complete: 875_000 });
    expect(reliability([])).toEqual({ orders: 0, days: null, complete: null });
  });
});
