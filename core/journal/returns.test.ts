import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import {
  keptParts,
  planRefund,
  refundsFor,
  ReturnError,
  wayOf,
  type PaidTender,
  type Refund,
  type ReturnedPart,
  type SoldLine,
} from './returns.ts';

const RATE = { rateId: 1, name: 'Tax', rate: 82_500 };

const soldLine = fc
  .record({
    units: fc.integer({ min: 1, max: 7 }),
    regular: fc.integer({ min: 0, max: 100_000 }),
    offer: fc.integer({ min: 0, max: 100 }),
    discount: fc.integer({ min: 0, max: 100 }),
    tax: fc.integer({ min: 0, max: 20 }),
  })
  .map(({ units, regular, offer, discount, tax }) => {
    const first = 0 - Math.floor((regular * offer) / 100);
    const second = 0 - Math.floor(((regular + first) * discount) / 100);
    const net = regular + first + second;
    return {
      quantity: units * 1000,
      regular,
      net,
      records: [
        { kind: 'offer' as const, amount: first, why: 'Offer', offerId: 1 },
        { kind: 'discount' as const, amount: second, why: 'Discount', discountId: 'd' },
      ],
      taxes: [{ ...RATE, base: net, tax: Math.floor((net * tax) / 100) }],
      back: { quantity: 0, net: 0, taxes: [] },
    };
  });

const sale = fc
  .array(soldLine, { minLength: 1, maxLength: 4 })
  .map((lines) => lines.map((line, at): SoldLine => ({ ...line, position: at + 1 })));

/** The sale after refunds, as it is read again. */
function after(lines: readonly SoldLine[], refunds: readonly Refund[]): SoldLine[] {
  return lines.map((line) => {
    const mine = refunds.filter(({ position }) => position === line.position);
    return {
      ...line,
      back: {
        quantity: line.back.quantity - sum(mine.map(({ quantity }) => quantity)),
        net: line.back.net - sum(mine.map(({ net }) => net)),
        taxes: [
          ...line.back.taxes,
          ...mine.flatMap(({ taxes }) => taxes.map(({ rateId, tax }) => ({ rateId, tax: 0 - tax }))),
        ],
      },
    };
  });
}

/** One unit of a line after the other, in the order that the numbers say, until everything is back. */
function returnAll(
  lines: readonly SoldLine[],
  order: readonly number[],
  costOfKept?: (kept: readonly ReturnedPart[]) => number,
) {
  let now = [...lines];
  const all: Refund[] = [];
  for (let step = 0; ; step++) {
    const left = keptParts(now, []);
    if (left.length === 0) return all;
    const chosen = left[(order[step % order.length] ?? 0) % left.length];
    if (!chosen) return all;
    const parts = [{ position: chosen.position, quantity: 1000 }];
    const refunds = refundsFor(now, parts, costOfKept?.(keptParts(now, parts)));
    all.push(...refunds);
    now = after(now, refunds);
  }
}

const order = fc.array(fc.nat(20), { minLength: 1, maxLength: 30 });
const paid = (lines: readonly SoldLine[]) => sum(lines.map(({ net }) => net));
const taxOf = (lines: readonly { taxes: readonly { tax: number }[] }[]) =>
  sum(lines.flatMap(({ taxes }) => taxes.map(({ tax }) => tax)));

describe('refunds', () => {
  it('come to exactly what was paid, in whatever order the pieces come back', () => {
    fc.assert(
      fc.property(sale, order, (lines, steps) => {
        const refunds = returnAll(lines, steps);
        expect(0 - sum(refunds.map(({ net }) => net))).toBe(paid(lines));
        expect(0 - taxOf(refunds)).toBe(taxOf(lines));
        for (const { net, regular, records } of refunds) {
          expect(regular + sum(records.map(({ amount }) => amount))).toBe(net);
          expect(net).toBeLessThanOrEqual(0);
        }
      }),
    );
  });

  it('come to exactly what was paid when what is kept is priced again', () => {
    fc.assert(
      fc.property(sale, order, fc.integer({ min: 0, max: 150 }), (lines, steps, rate) => {
        const priceOfUnit = new Map(
          lines.map(({ position, regular, quantity }) => [position, (regular * 1000) / quantity]),
        );
        const costOfKept = (kept: readonly ReturnedPart[]) =>
          Math.floor(
            (sum(
              kept.map(({ position, quantity }) =>
                Math.round(((priceOfUnit.get(position) ?? 0) * quantity) / 1000),
              ),
            ) *
              rate) /
              100,
          );
        const refunds = returnAll(lines, steps, costOfKept);
        expect(0 - sum(refunds.map(({ net }) => net))).toBe(paid(lines));
        expect(0 - taxOf(refunds)).toBe(taxOf(lines));
        let given = 0;
        for (const { net } of refunds) {
          given -= net;
          expect(given).toBeLessThanOrEqual(paid(lines));
        }
      }),
    );
  });

  it('of a part and of the rest come to the same as of the whole', () => {
    fc.assert(
      fc.property(soldLine, fc.integer({ min: 1, max: 6 }), (one, units) => {
        const line: SoldLine = { ...one, position: 1 };
        fc.pre(units * 1000 < line.quantity);
        const first = refundsFor([line], [{ position: 1, quantity: units * 1000 }]);
        const rest = refundsFor(after([line], first), [
          { position: 1, quantity: line.quantity - units * 1000 },
        ]);
        const whole = refundsFor([line], [{ position: 1, quantity: line.quantity }]);
        expect(sum([...first, ...rest].map(({ net }) => net))).toBe(whole[0]?.net);
      }),
    );
  });

  it('show what offers held back, and give it back with the last of the goods', () => {
    // Two for 10.00 instead of 6.00 each: one alone would have cost 6.00.
    const line = (position: number): SoldLine => ({
      position,
      quantity: 1000,
      regular: 600,
      net: 500,
      records: [{ kind: 'offer', amount: -100, why: 'Two for 10.00', offerId: 7 }],
      taxes: [],
      back: { quantity: 0, net: 0, taxes: [] },
    });
    const lines = [line(1), line(2)];
    const first = refundsFor(lines, [{ position: 1, quantity: 1000 }], 600);
    expect(first[0]).toMatchObject({ net: -400, regular: -600 });
    expect(first[0]?.records.at(-1)).toMatchObject({ kind: 'return', amount: 100 });
    const second = refundsFor(after(lines, first), [{ position: 2, quantity: 1000 }], 0);
    expect(second[0]?.net).toBe(-600);
  });

  it('refuse more than was sold, and what came back already', () => {
    const [line] = fc.sample(soldLine, 1);
    if (!line) throw new Error('no line');
    const lines = [{ ...line, position: 1 }];
    expect(() => refundsFor(lines, [{ position: 1, quantity: line.quantity + 1000 }])).toThrow(ReturnError);
    expect(() => refundsFor(lines, [{ position: 2, quantity: 1000 }])).toThrow(ReturnError);
    const gone = after(lines, refundsFor(lines, [{ position: 1, quantity: line.quantity }]));
    expect(() => refundsFor(gone, [{ position: 1, quantity: 1000 }])).toThrow(ReturnError);
  });

  it('let a person choose as soon as one offer does', () => {
    expect(wayOf([])).toBe('share');
    expect(wayOf(['share', 're-price'])).toBe('re-price');
    expect(wayOf(['re-price', 'ask'])).toBe('ask');
  });
});

describe('the way back of money', () => {
  const tender = (id: string, kind: PaidTender['kind'], left: number, open = true): PaidTender => ({
    id,
    kind,
    name: id,
    left,
    open,
  });

  it('is the newest electronic payment first, to at most what it paid, then cash', () => {
    const paidWith = [
      tender('cash', 'cash', 1000),
      tender('gift', 'stored-value', 500),
      tender('card', 'card', 800),
    ];
    expect(planRefund(2000, paidWith).map(({ to, name, amount }) => [to, name, amount])).toEqual([
      ['tender', 'card', 800],
      ['tender', 'gift', 500],
      ['cash', 'Cash', 700],
    ]);
    expect(planRefund(300, paidWith)).toHaveLength(1);
    expect(planRefund(300, [tender('card', 'card', 800, false)])[0]).toMatchObject({
      to: 'cash',
      amount: 300,
    });
  });

  it('is store credit for what came without a receipt, and where the shop gives no cash', () => {
    expect(planRefund(1000, [tender('card', 'card', 800)], { creditOnly: 400 })).toMatchObject([
      { to: 'tender', amount: 600 },
      { to: 'store-credit', amount: 400 },
    ]);
    expect(planRefund(1000, [], { rest: 'store-credit' })).toMatchObject([
      { to: 'store-credit', amount: 1000 },
    ]);
  });

  it('always adds up', () => {
    const any = fc.array(
      fc.record({
        id: fc.uuid(),
        kind: fc.constantFrom<PaidTender['kind']>('cash', 'card', 'stored-value', 'other'),
        name: fc.string(),
        left: fc.integer({ min: 0, max: 10_000 }),
        open: fc.boolean(),
      }),
      { maxLength: 5 },
    );
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 20_000 }),
        any,
        fc.integer({ min: 0, max: 5000 }),
        (amount, all, creditOnly) => {
          const parts = planRefund(amount, all, { creditOnly });
          expect(sum(parts.map((part) => part.amount))).toBe(amount);
          for (const { tenderId, amount: part } of parts) {
            const along = all.find(({ id }) => id === tenderId);
            if (along) expect(part).toBeLessThanOrEqual(along.left);
            expect(part).toBeGreaterThan(0);
          }
        },
      ),
    );
  });
});
