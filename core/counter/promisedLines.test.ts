import { describe, expect, it } from 'vitest';
import { priceBasket } from '../pricing/price.ts';
import { PLAIN_LINE, type PromiseLine } from '../promises/promised.ts';
import { ONE } from '../quantity.ts';
import { removeLines, setQuantity, type Basket, type BasketLine } from './basket.ts';
import {
  cancelLines,
  depositLines,
  goodsLines,
  moneyLine,
  putPromised,
  type PromiseAtTill,
} from './promiseBasket.ts';
import { promiseChanges, promisedAgain, type PromiseInBasket } from './promisedLines.ts';
import { linesToPrice } from './toPrice.ts';

const ITEM = { number: 'X', unit: 'each', taxCategoryId: 1 };
const PROMISE = '00000000-0000-4000-8000-000000000001';
let counted = 0;
const newId = () => `00000000-0000-4000-8000-${String((counted += 1)).padStart(12, '0')}`;

const goods = (change: Partial<PromiseLine> = {}): PromiseLine => ({
  ...ITEM,
  position: 1,
  itemId: 1,
  name: 'Stand',
  decimals: 0,
  quantity: 2 * ONE,
  ...PLAIN_LINE,
  unitPrice: 5000,
  regular: 10_000,
  net: 9000,
  tax: 900,
  records: [{ kind: 'discount', amount: -1000, why: 'dented' }],
  ...change,
});

const promise = (change: Partial<PromiseInBasket & PromiseAtTill> = {}): PromiseInBasket & PromiseAtTill => ({
  id: PROMISE,
  number: 'L-0001',
  asked: false,
  fee: 5_00,
  cancelled: false,
  atPlace: 1,
  held: 4000,
  heldThere: 0,
  paid: 4000,
  firstPayment: 0,
  relay: null,
  rest: 9900,
  lines: [goods()],
  depositSales: [],
  depositItem: { ...ITEM, itemId: 8 },
  feeItem: { ...ITEM, itemId: 9 },
  ...change,
});

const again = (lines: BasketLine[], one = promise()) => promisedAgain(lines, new Map([[one.id, one]]), 2);
const price = (lines: readonly BasketLine[]) =>
  priceBasket(
    linesToPrice(
      { id: newId(), lines: [...lines] },
      {
        rates: { 1: [{ id: 1, name: 'Tax', rate: 100_000 }] },
        groupPrices: [{ itemId: 1, price: 1, group: 'Friends' }],
        goodsOf: () => undefined,
      },
    ),
    { taxMode: 'on-top', taxRounding: 'sale' },
  );

describe('what a basket has of a promise', () => {
  it('is handed over at the promised price, whatever the browser or a group price says, with the tax of the day', () => {
    const lines = goodsLines(promise(), new Map([[1, 2 * ONE]]), newId).map((line) => ({
      ...line,
      name: 'Something else',
      promised: { ...line.promised, figures: undefined },
    })) as BasketLine[];
    const found = again([...lines, moneyLine(promise(), 'used', -4000, newId)]);
    if (typeof found === 'string') throw new Error(found);
    const [line] = [...found.values()];
    expect(line?.name).toBe('Stand');
    const priced = price(line ? [line] : []);
    expect([priced.lines[0]?.net, priced.total]).toEqual([9000, 9900]);
  });

  it.each([
    [
      'what is not known any more',
      () => promisedAgain([moneyLine(promise(), 'deposit', 1, newId)], new Map(), 2),
      'not known',
    ],
    [
      'what was cancelled',
      () => again([moneyLine(promise(), 'deposit', 1, newId)], promise({ cancelled: true })),
      'was cancelled',
    ],
    [
      'more than is left to pay',
      () => again([moneyLine(promise(), 'deposit', 5901, newId)]),
      'Only 59.00 is left',
    ],
    [
      'more used than is held',
      () =>
        again([
          ...goodsLines(promise(), new Map([[1, ONE]]), newId),
          moneyLine(promise(), 'used', -4001, newId),
        ]),
      'Only 40.00 is held',
    ],
    [
      'a deposit that is used for nothing',
      () => again([moneyLine(promise(), 'used', -100, newId)]),
      'used for its goods only',
    ],
    [
      'another amount given back than is held',
      () => again([moneyLine(promise(), 'back', -3999, newId)]),
      '40.00 is held',
    ],
    [
      'a deposit of less than nothing',
      () => again([moneyLine(promise(), 'deposit', -1, newId)]),
      'not what they stand for',
    ],
    [
      'more than the agreed fee',
      () => again(cancelLines(promise(), 501, { reason: 'why' }, newId)),
      'at most the agreed fee of 5.00',
    ],
    ['a fee alone', () => again([moneyLine(promise(), 'fee', 100, newId)]), 'a fee is kept'],
    [
      'giving back together with goods',
      () =>
        again([
          ...cancelLines(promise(), 0, { reason: 'why' }, newId),
          ...goodsLines(promise(), new Map([[1, ONE]]), newId),
        ]),
      'goes back when all',
    ],
    [
      'goods that left meanwhile',
      () =>
        again(
          goodsLines(promise(), new Map([[1, 2 * ONE]]), newId),
          promise({ lines: [goods({ handed: ONE })] }),
        ),
      'handed over meanwhile',
    ],
    [
      'goods in whose place others stand now',
      () =>
        again(
          goodsLines(promise(), new Map([[1, ONE]]), newId),
          promise({ lines: [goods({ itemId: 2, name: 'Case' })] }),
        ),
      'does not belong to L-0001',
    ],
    [
      'another serial number',
      () => again(goodsLines(promise({ lines: [goods({ serial: 'A1' })] }), new Map([[1, ONE]]), newId)),
      'serial number',
    ],
    [
      'a line twice',
      () =>
        again([
          ...goodsLines(promise(), new Map([[1, ONE]]), newId),
          ...goodsLines(promise(), new Map([[1, ONE]]), newId),
        ]),
      'twice',
    ],
  ])('is refused: %s', (_what, work, words) => {
    expect(work()).toEqual(expect.stringContaining(words));
  });

  it('does to the promise what its lines say', () => {
    const lines = [
      ...goodsLines(promise(), new Map([[1, ONE]]), newId),
      moneyLine(promise(), 'used', -2000, newId),
    ];
    expect(promiseChanges(lines, price(lines))).toEqual([
      { id: PROMISE, moves: [{ kind: 'used', amount: -2000 }], handed: [{ position: 1, quantity: ONE }] },
    ]);
    const cancelled = cancelLines(promise(), 500, { reason: 'why' }, newId);
    // The fee is taxed: what goes back is less by that, too.
    expect(promiseChanges(cancelled, price(cancelled))).toEqual([
      {
        id: PROMISE,
        moves: [
          { kind: 'fee', amount: -550 },
          { kind: 'back', amount: -3450 },
        ],
        handed: [],
      },
    ]);
    const tooMuch = [
      ...goodsLines(promise(), new Map([[1, ONE]]), newId),
      moneyLine(promise(), 'used', -4951, newId),
    ];
    expect(promiseChanges(tooMuch, price(tooMuch))).toContain('More of the deposit');
  });

  it('leaves as much held as the shop asks for what stays', () => {
    const due = price(goodsLines(promise(), new Map([[1, ONE]]), newId)).total;
    expect(due).toBe(4950);
    const money = (held: number, units: number, cost: number) =>
      depositLines(promise({ held }), new Map([[1, units * ONE]]), cost, 200_000, newId).map(
        ({ promised, listPrice }) => [promised?.part, listPrice],
      );
    expect(money(4000, 1, due)).toEqual([['used', 990 - 4000]]);
    expect(money(4000, 2, 9900)).toEqual([['used', -4000]]);
    expect(money(0, 2, 9900)).toEqual([]);
    // When nothing stays, nothing is held any more.
    expect(money(9900, 2, 9898)).toEqual([
      ['used', -9898],
      ['back', -2],
    ]);
    expect(money(9900, 1, 4000)).toEqual([['used', -4000]]);
  });

  it('belongs together: it comes in the place of what was there, leaves as one, and has its quantity', () => {
    const other: BasketLine = { ...moneyLine(promise(), 'deposit', 1, newId), promised: undefined };
    const basket: Basket = { id: newId(), lines: [other] };
    const handed = putPromised(basket, [
      ...goodsLines(promise(), new Map([[1, ONE]]), newId),
      moneyLine(promise(), 'used', -100, newId),
    ]);
    expect(putPromised(handed, [moneyLine(promise(), 'deposit', 100, newId)]).lines).toHaveLength(2);
    const [, first] = handed.lines;
    if (!first) throw new Error('nothing was put');
    expect(removeLines(handed, new Set([first.id])).lines).toEqual([other]);
    expect(() => setQuantity(handed, first.id, 2 * ONE)).toThrow('choose how many under Waiting');
  });
});
