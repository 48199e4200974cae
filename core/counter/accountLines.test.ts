import { describe, expect, it } from 'vitest';
import { ONE } from '../quantity.ts';
import { accountMoneyProblem, putAccountMoney } from './accountLines.ts';
import { isMoney, lineProblem, setQuantity } from './basket.ts';
import { linesToPrice } from './toPrice.ts';

const item = { itemId: 9, number: 'ON-ACCOUNT', unit: 'each', taxCategoryId: 1 };
const account = { id: 4, name: 'Uma Fenwick' };
const empty = { id: 'b', lines: [] };
const put = (amount: number, id = 'one') => putAccountMoney(empty, account, amount, { item, id });

describe('money for a house account', () => {
  it('stands on one line, which is never reduced, taxed or multiplied', () => {
    const basket = putAccountMoney(put(500), account, 700, { item, id: 'two', items: [3] });
    expect(basket.lines).toMatchObject([
      { id: 'two', name: 'On account, Uma Fenwick', listPrice: 700, account: { accountId: 4, items: [3] } },
    ]);
    const rates = { 1: [{ id: 1, name: 'Sales tax', rate: 75_000 }] };
    const [priced] = linesToPrice(basket, { rates, groupPrices: [], goodsOf: () => undefined });
    expect(priced).toMatchObject({ closed: true, rates: [] });
    expect(isMoney({ account: { accountId: 4, name: '' } })).toBe(true);
    expect(() => setQuantity(basket, 'two', 2 * ONE)).toThrow('type another amount');
  });

  it('is paid out under its own name, and never more than is over', () => {
    const { lines } = put(-300);
    expect(lines[0]?.name).toBe('Paid out to Uma Fenwick');
    expect(accountMoneyProblem(lines, 4, -300, 2)).toBeNull();
    expect(accountMoneyProblem(lines, 4, -299, 2)).toBe('Only 2.99 is over on the account of Uma Fenwick.');
    expect(accountMoneyProblem(lines, 4, 100, 2)).toContain('Only 0.00');
    expect(accountMoneyProblem(lines, 4, undefined, 2)).toContain('not known any more');
    expect(accountMoneyProblem([...lines, ...put(100, 'x').lines], 4, -300, 2)).toContain('once');
  });

  it('is not sold by itself', () => {
    const [line] = put(500).lines;
    if (!line) throw new Error('no line');
    const facts = { kind: 'goods' as const, serials: false, minAge: null, sellsValue: false };
    expect(lineProblem(line, { ...facts, standsFor: 'account' })).toBeNull();
    expect(lineProblem({ ...line, account: undefined }, { ...facts, standsFor: 'account' })).toContain(
      'not sold by itself',
    );
  });
});
