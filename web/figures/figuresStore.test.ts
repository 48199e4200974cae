import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import { useStockMovesStore } from '../goods/stockMovesStore.ts';
import { useStockValueStore } from '../goods/stockValueStore.ts';
import { useBooksStore } from '../books/booksStore.ts';
import { tell } from '../testing/houseEvents.ts';
import { late } from '../../contract/testing/late.ts';
import { useFiguresStore } from './figuresStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset().mockImplementation((path: string) => Promise.resolve({ of: path }));
});

describe('what the shop did', () => {
  it('is the report that was asked for last', async () => {
    const figures = useFiguresStore();
    const slow = late<object>();
    net.read.mockReturnValueOnce(slow.promise);
    const first = figures.loadReport('items', 'from=2026-01-01');
    await figures.loadReport('taxes', 'from=2026-02-01');
    slow.come({ of: 'the year' });
    await first;
    expect(figures.report).toEqual({ of: '/figures/reports/taxes?from=2026-02-01' });
  });

  it('has choices for each who asks, and shows the last ones', async () => {
    const figures = useFiguresStore();
    const slow = late<object>();
    net.read.mockReturnValueOnce(slow.promise).mockResolvedValueOnce({ of: 'second' });
    const first = figures.loadChoices();
    expect(await figures.loadChoices()).toEqual({ of: 'second' });
    slow.come({ of: 'first' });
    expect(await first).toEqual({ of: 'first' });
    expect(figures.choices).toEqual({ of: 'second' });
  });

  it('is checked one after the other, as long as somebody wants to know', async () => {
    const figures = useFiguresStore();
    const off = { check: 'points', what: 'customer 1', kept: 2, recomputed: 1 };
    net.read.mockImplementation((path: string) =>
      Promise.resolve({ of: 3, differences: path.endsWith('/2') ? [off] : [] }),
    );
    await figures.loadChecks(() => true);
    expect(figures.checked).toEqual({ done: 3, of: 3, differences: [off] });
    expect(net.read.mock.calls).toEqual([
      ['/figures/checks/1'],
      ['/figures/checks/2'],
      ['/figures/checks/3'],
    ]);
    net.read.mockClear();
    await figures.loadChecks(() => (figures.checked?.done ?? 0) !== 1);
    expect([net.read.mock.calls.length, figures.checked?.done]).toEqual([2, 1]);
  });

  it('is asked for again when something was sold, undone or counted', async () => {
    const again = vi.fn(() => Promise.resolve());
    useFiguresStore().follow(again);
    tell({ kind: 'people-changed' });
    for (const [at, kind] of ['sale-finished', 'sale-voided', 'drawer-changed', 'connected'].entries()) {
      tell({ kind });
      await eventually(() => expect(again).toHaveBeenCalledTimes(at + 1));
    }
  });
});

describe('books, moves and what stock is worth', () => {
  it('are asked for as an address says it', async () => {
    const [ledger, moves, value] = [useBooksStore(), useStockMovesStore(), useStockValueStore()];
    await ledger.loadDay('2026-03-01');
    await ledger.loadBalance('from=2026-03-01&to=2026-03-31');
    await ledger.loadEvents('kind=sale');
    await moves.load('reason=counted', 2);
    await value.load('');
    expect([ledger.day, ledger.balance, ledger.page, moves.listed, value.value]).toEqual(
      [
        '/books/day?from=2026-03-01',
        '/books/balance?from=2026-03-01&to=2026-03-31',
        '/books/events?kind=sale',
        '/goods/moves?reason=counted&page=2',
        '/goods/value?day=',
      ].map((of) => ({ of })),
    );
  });

  it('are asked for again when goods moved', async () => {
    const again = vi.fn(() => Promise.resolve());
    useStockMovesStore().follow(again);
    for (const kind of ['sale-finished', 'stock-changed', 'connected']) tell({ kind });
    await eventually(() => expect(again).toHaveBeenCalledTimes(2));
  });
});
