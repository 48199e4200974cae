import { describe, expect, it } from 'vitest';
import type { Item } from '../goods/item.ts';
import {
  addItem,
  BasketError,
  changeLine,
  lineProblem,
  removeLines,
  restoreLines,
  setQuantity,
  type Basket,
} from './basket.ts';
import { carriedApprovals, neededRights, takenOut, withApproval } from './neededRights.ts';
import { parseEntry } from './entry.ts';

const pick: Item = {
  id: 1,
  number: 'PIC',
  name: 'Pick',
  category: 'Picks',
  price: 60,
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
  codes: [],
  stock: 0,
};
const cable: Item = { ...pick, id: 2, number: 'CAB', name: 'Cable', price: 420, unit: 'm', decimals: 2 };
const repair: Item = { ...pick, id: 3, number: 'REP', name: 'Repair', price: null };
const empty: Basket = { id: 'b', lines: [] };

describe('entry', () => {
  it.each([
    ['3*REE-BC25', { quantity: 3000, text: 'REE-BC25' }],
    ['2.5 * cable', { quantity: 2500, text: 'cable' }],
    [' 2000000000015 ', { text: '2000000000015' }],
    ['0*pick', { text: '0*pick' }],
    ['*pick', { text: '*pick' }],
    ['3*', { quantity: 3000, text: '' }],
  ])('reads %j', (typed, entry) => {
    expect(parseEntry(typed)).toEqual(entry);
  });
});

describe('basket', () => {
  it('adds more of the last line, and a new line after another item', () => {
    const one = addItem(empty, pick, { lineId: 'x' }).basket;
    const two = addItem(one, pick, { lineId: 'y', quantity: 2000 });
    expect(two.lineId).toBe('x');
    expect(two.basket.lines).toMatchObject([{ id: 'x', quantity: 3000, listPrice: 60 }]);
    const three = addItem(two.basket, cable, { lineId: 'z', quantity: 2500 }).basket;
    expect(three.lines).toHaveLength(2);
  });

  it('merges with an equal line further up, but not with one that is special', () => {
    const one = addItem(empty, pick, { lineId: 'a' }).basket;
    const two = addItem(one, cable, { lineId: 'b' }).basket;
    expect(addItem(two, pick, { lineId: 'c' })).toMatchObject({ lineId: 'a' });
    for (const special of [{ note: 'x' }, { gift: true }, { typedPrice: { unitPrice: 1, reason: 'old' } }]) {
      expect(addItem(changeLine(two, 'a', special), pick, { lineId: 'c' }).lineId).toBe('c');
    }
  });

  it('names every step that needs more rights', () => {
    const { basket } = addItem(empty, repair, { lineId: 'r', unitPrice: 60_000, openPriceCountersign: 'k' });
    const dearer = addItem(basket, pick, { lineId: 'p' }).basket;
    const typed = changeLine(dearer, 'p', { typedPrice: { unitPrice: 1, reason: 'old' } });
    const exempt = { ...typed, exemption: { reason: 'School', certificate: '' } };
    expect(neededRights(exempt, new Set([repair.id]), 50_000)).toEqual([
      {
        right: 'open-price.large',
        step: { subject: `item:${repair.id}`, from: null, to: 60_000, unit: 'money', amount: 60_000 },
        countersign: 'k',
      },
      {
        right: 'price.change',
        step: { subject: 'line:p', from: 60, to: 1, unit: 'money', amount: 59 },
        countersign: undefined,
      },
      {
        right: 'tax.exempt',
        step: { subject: 'exemption:School', from: null, to: null, unit: 'money', amount: null },
        countersign: undefined,
      },
    ]);
    const [, price] = neededRights(exempt, new Set([repair.id]), 50_000);
    if (!price) throw new Error('no step');
    expect([...carriedApprovals(exempt)]).toEqual(['k']);
    expect([...carriedApprovals(withApproval(exempt, price, 'm'))]).toEqual(['k', 'm']);
    expect(neededRights(dearer, new Set([repair.id]), 60_000)).toEqual([]);
  });

  it('asks for a price where there is none, and never merges such lines', () => {
    expect(() => addItem(empty, repair, { lineId: 'x' })).toThrow(BasketError);
    const one = addItem(empty, repair, { lineId: 'x', unitPrice: 4500 }).basket;
    const two = addItem(one, repair, { lineId: 'y', unitPrice: 4500 }).basket;
    expect(two.lines.map(({ listPrice }) => listPrice)).toEqual([4500, 4500]);
  });

  it('refuses quantities that the item does not come in, in words', () => {
    expect(() => addItem(empty, pick, { lineId: 'x', quantity: 1500 })).toThrow(
      'Pick is sold in whole units.',
    );
    expect(() => addItem(empty, cable, { lineId: 'x', quantity: 1001 })).toThrow('at most 2 decimals');
    const { basket } = addItem(empty, pick, { lineId: 'x' });
    expect(() => setQuantity(basket, 'x', 0)).toThrow('more than zero');
    expect(() => setQuantity(basket, 'x', 1e11)).toThrow('99,999');
  });

  it('puts removed lines back where they were, and keeps what came since', () => {
    let basket = empty;
    for (const [lineId, item] of [
      ['a', pick],
      ['b', cable],
      ['c', { ...pick, id: 9 }],
    ] as const)
      basket = addItem(basket, item, { lineId }).basket;
    const without = removeLines(basket, new Set(['b']));
    expect(without.lines.map(({ id }) => id)).toEqual(['a', 'c']);
    expect(restoreLines(without, basket)).toEqual(basket);
    const meanwhile = addItem(setQuantity(without, 'c', 3000), { ...pick, id: 10 }, { lineId: 'd' }).basket;
    expect(restoreLines(meanwhile, basket).lines.map(({ id, quantity }) => [id, quantity])).toEqual([
      ['a', 1000],
      ['b', 1000],
      ['c', 3000],
      ['d', 1000],
    ]);
  });

  it('reads a quantity in front, also of what comes back', () => {
    expect(parseEntry('3*REE')).toEqual({ quantity: 3000, text: 'REE' });
    expect(parseEntry('-1*REE')).toEqual({ quantity: -1000, text: 'REE' });
    expect(parseEntry('0*REE')).toEqual({ text: '0*REE' });
  });

  it('keeps what comes back apart, and steps it without turning it around', () => {
    const bought = addItem(empty, pick, { lineId: 'a' }).basket;
    expect(() => addItem(bought, pick, { lineId: 'b', quantity: -1000 })).toThrow('type its price');
    const { basket } = addItem(bought, pick, { lineId: 'b', quantity: -1000, unitPrice: 50 });
    expect(basket.lines.map(({ quantity, listPrice }) => [quantity, listPrice])).toEqual([
      [1000, pick.price],
      [-1000, 50],
    ]);
    expect(setQuantity(basket, 'b', -2000).lines[1]?.quantity).toBe(-2000);
    expect(() => setQuantity(basket, 'b', 1000)).toThrow(BasketError);
    expect(neededRights(setQuantity(basket, 'b', -2000), new Set(), 0)).toEqual([
      {
        right: 'return.no-receipt',
        step: { subject: `item:${pick.id}`, from: null, to: null, unit: 'money', amount: 100 },
        countersign: undefined,
      },
    ]);
  });

  it('takes each serial number once, one unit on a line', () => {
    const { basket } = addItem(empty, pick, { lineId: 'a', serial: 'K1' });
    expect(() => addItem(basket, pick, { lineId: 'b', serial: 'K1' })).toThrow('in the basket already');
    expect(addItem(basket, pick, { lineId: 'b', serial: 'K2' }).basket.lines).toHaveLength(2);
    expect(() => setQuantity(basket, 'a', 2000)).toThrow('serial number');
  });

  it('takes a label as it stands: never merged, never another quantity', () => {
    const label = { code: '2800052006403', amount: 640 };
    const one = addItem(empty, repair, { lineId: 'a', label }).basket;
    const two = addItem(one, repair, { lineId: 'b', label }).basket;
    expect(two.lines.map(({ listPrice, quantity }) => [listPrice, quantity])).toEqual([
      [640, 1000],
      [640, 1000],
    ]);
    expect(() => setQuantity(two, 'a', 2000)).toThrow('scan each label');
  });

  it('says why a line cannot be sold as it is', () => {
    const [line] = addItem(empty, pick, { lineId: 'a' }).basket.lines;
    if (!line) throw new Error('no line');
    const plain = { kind: 'goods', serials: false, minAge: null, sellsValue: false } as const;
    expect(lineProblem(line, plain)).toBeNull();
    expect(lineProblem(line, { ...plain, kind: 'family' })).toContain('choose what it stands for');
    expect(lineProblem(line, { ...plain, serials: true })).toContain('serial number');
    expect(lineProblem({ ...line, serial: 'K1', quantity: 2000 }, plain)).toContain('one unit on each line');
    expect(lineProblem(line, { ...plain, sellsValue: true })).toContain('number of the card');
    const sold = { ...line, storedValue: { number: '12345678903', kind: 'gift-card' as const } };
    expect(lineProblem(sold, { ...plain, sellsValue: true })).toBeNull();
    expect(lineProblem(sold, plain)).not.toBeNull();
    expect(lineProblem({ ...sold, quantity: 2000 }, { ...plain, sellsValue: true })).toContain('one card');
    expect(lineProblem(line, { ...plain, minAge: 18 })).toContain('from 18 years on');
    expect(lineProblem({ ...line, ageChecked: true }, { ...plain, minAge: 18 })).toBeNull();
  });

  it('knows when goods are taken out: a line gone or fewer of it', () => {
    const { basket } = addItem(empty, pick, { lineId: 'a', quantity: 2000 });
    expect(takenOut(basket, basket)).toEqual([]);
    expect(takenOut(basket, setQuantity(basket, 'a', 3000))).toEqual([]);
    expect(takenOut(basket, setQuantity(basket, 'a', 1000))).toHaveLength(1);
    expect(takenOut(basket, removeLines(basket, new Set(['a'])))).toHaveLength(1);
    expect(takenOut(empty, basket)).toEqual([]);
  });
});
