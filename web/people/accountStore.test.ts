import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { AccountPage, WantedAccount } from '../../contract/accounts.ts';
import { tell } from '../testing/houseEvents.ts';
import { useAccountStore } from './accountStore.ts';
import { fakeBasket, type FakeBasket } from '../testing/fakeBasket.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));
const stores = vi.hoisted(() => ({
  basket: {} as Record<string, unknown>,
  ringUp: { caughtUp: vi.fn(() => Promise.resolve()) },
  till: { facts: null as unknown },
}));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('../sale/ringUpStore.ts', () => ({ useRingUpStore: () => stores.ringUp }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));

let basket: FakeBasket;

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset();
  basket = fakeBasket();
  stores.basket = basket;
  stores.till.facts = { accounts: { item: { itemId: 90, number: 'ACC', unit: 'each', taxCategoryId: 1 } } };
});

describe('money for an account', () => {
  const CORRIN = { id: 5, name: 'Corrin & Sons' };

  it('is one line of the basket, whatever was typed for it before', async () => {
    const accounts = useAccountStore();
    await accounts.ringUpMoney(CORRIN, 4_000);
    await accounts.ringUpMoney(CORRIN, 9_000, { items: [11, 12] });
    await accounts.ringUpMoney({ id: 6, name: 'School' }, 100);
    expect(basket.basket.lines).toMatchObject([
      { name: 'On account, Corrin & Sons', listPrice: 9_000, account: { accountId: 5, items: [11, 12] } },
      { listPrice: 100, account: { accountId: 6 } },
    ]);
    // What was scanned before is rung up first.
    expect(stores.ringUp.caughtUp).toHaveBeenCalledTimes(3);
  });

  it('that is paid out carries who approved it', async () => {
    await useAccountStore().ringUpMoney(CORRIN, -2_000, { countersign: 'c1' });
    expect(basket.basket.lines).toMatchObject([
      { name: 'Paid out to Corrin & Sons', listPrice: -2_000, returnCountersign: 'c1' },
    ]);
  });

  it('is none where the shop keeps no accounts', async () => {
    stores.till.facts = { accounts: { item: null } };
    await useAccountStore().ringUpMoney(CORRIN, 4_000);
    expect(basket.change).not.toHaveBeenCalled();
  });
});

describe('accounts', () => {
  it('of the customer that was opened last are shown, and read again after a change', async () => {
    const accounts = useAccountStore();
    let late = (_found: object): void => {};
    net.read.mockReturnValueOnce(new Promise((come) => (late = come)));
    const first = accounts.look(1);
    net.read.mockResolvedValue({ account: { id: 8 }, buysOn: [] });
    await accounts.look(2);
    late({ account: { id: 7 }, buysOn: [] });
    await first;
    expect(accounts.looked?.account?.id).toBe(8);
    // Nobody else comes into sight when theirs is kept.
    await accounts.put(1, { limit: 1 } as unknown as WantedAccount);
    expect(accounts.looked?.account?.id).toBe(8);
    await accounts.put(2, { limit: 1 } as unknown as WantedAccount);
    expect(net.write).toHaveBeenCalledWith('PUT', '/accounts/of/2', { limit: 1 });
    expect(net.read).toHaveBeenCalledTimes(3);
  });

  it('are listed by what is asked for, and again when people change', async () => {
    const accounts = useAccountStore();
    net.read.mockResolvedValue({ rows: [] } as unknown as AccountPage);
    accounts.follow();
    tell({ kind: 'people-changed' });
    expect(net.read).not.toHaveBeenCalled();
    Object.assign(accounts.filter, { find: 'a&b', show: 'late' });
    accounts.page = 2;
    await accounts.load();
    expect(net.read).toHaveBeenLastCalledWith('/accounts?find=a%26b&show=late&page=2');
    tell({ kind: 'people-changed' });
    expect(net.read).toHaveBeenCalledTimes(2);
  });

  it('have statements of some days, for all who buy on one or for one of them', () => {
    const accounts = useAccountStore();
    const days = { from: '2026-02-01', to: '2026-02-28' };
    expect(accounts.statementAddress(5, days, 'pdf')).toBe(
      '/api/accounts/5/statement.pdf?from=2026-02-01&to=2026-02-28',
    );
    void accounts.statement(5, { ...days, buyer: 3 });
    expect(net.read).toHaveBeenLastCalledWith('/accounts/5/statement?from=2026-02-01&to=2026-02-28&buyer=3');
  });

  it('take what came to the bank, and show what is left to book', async () => {
    const accounts = useAccountStore();
    net.write.mockResolvedValueOnce({ added: 2, known: 1, passed: 0 });
    net.read.mockResolvedValueOnce([{ id: 1 }, { id: 2 }]).mockResolvedValueOnce([{ id: 2 }]);
    expect(await accounts.takeList('a;b')).toEqual({ added: 2, known: 1, passed: 0 });
    expect(accounts.lines).toHaveLength(2);
    await accounts.bookLine(1, 5);
    expect(net.write).toHaveBeenLastCalledWith('POST', '/accounts/bank/1/book', { accountId: 5 });
    expect(accounts.lines).toEqual([{ id: 2 }]);
  });
});
