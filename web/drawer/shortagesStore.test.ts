import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { ShiftRow } from '../../contract/drawer.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { tell } from '../testing/houseEvents.ts';
import { useShortagesStore } from './shortagesStore.ts';

vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));
const stores = vi.hoisted(() => ({
  drawer: { history: vi.fn() },
  session: { may: vi.fn(() => true), person: { name: 'Isolde' } },
  till: {
    facts: { shop: { timezone: 'UTC' } },
    today: () => '2026-03-16',
    money: (amount: number) => (amount / 100).toFixed(2),
  },
}));
vi.mock('./drawerStore.ts', () => ({ useDrawerStore: () => stores.drawer }));
vi.mock('../staff/sessionStore.ts', () => ({ useSessionStore: () => stores.session }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));

const shift = (id: number, variance: number, explained = 0) =>
  ({ id, till: 2, closedBy: 'Teo', variance, explained }) as ShiftRow;
const words = () => useNoticeStore().notice?.text;

beforeEach(() => {
  setActivePinia(createPinia());
  stores.drawer.history.mockReset().mockResolvedValue({ rows: [] });
  stores.session.may.mockReturnValue(true);
});

describe('shifts that were closed short', () => {
  it('are those of two weeks that nobody explained, of any size', async () => {
    const shortages = useShortagesStore();
    stores.drawer.history.mockResolvedValue({
      rows: [shift(4, -1), shift(3, 500), shift(2, -900, -900), shift(1, -900, -400)],
    });
    await shortages.load();
    expect(stores.drawer.history).toHaveBeenCalledWith('from=2026-03-02');
    expect([shortages.count, shortages.rows.map(({ id }) => id)]).toEqual([2, [4, 1]]);
    // What was there before somebody looked is no news.
    expect(words()).toBeUndefined();
  });

  it('are said as they come, once', async () => {
    const shortages = useShortagesStore();
    shortages.follow();
    await shortages.load();
    stores.drawer.history.mockResolvedValue({ rows: [shift(5, -250)] });
    tell({ kind: 'sale-finished' });
    expect(stores.drawer.history).toHaveBeenCalledTimes(1);
    tell({ kind: 'drawer-changed' });
    await eventually(() => expect(words()).toBe('Till 2, closed by Teo, is 2.50 short.'));
    useNoticeStore().clear();
    await shortages.load();
    expect(words()).toBeUndefined();
    // It would stand over what came of closing it.
    stores.drawer.history.mockResolvedValue({ rows: [{ ...shift(6, -100), closedBy: 'Isolde' }] });
    await shortages.load();
    expect([words(), shortages.count]).toEqual([undefined, 1]);
  });

  it('are not for everybody, and the shop goes on where they cannot be read', async () => {
    const shortages = useShortagesStore();
    stores.session.may.mockReturnValue(false);
    await shortages.load();
    expect(stores.drawer.history).not.toHaveBeenCalled();
    stores.session.may.mockReturnValue(true);
    stores.drawer.history.mockRejectedValue(new Error('gone'));
    shortages.look();
    await Promise.resolve();
    expect([shortages.count, words()]).toEqual([0, undefined]);
  });
});
