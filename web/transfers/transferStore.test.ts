import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import { tell } from '../testing/houseEvents.ts';
import { useTransferStore } from './transferStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

beforeEach(() => {
  vi.resetAllMocks();
  setActivePinia(createPinia());
});

describe('goods on their way between places', () => {
  it('go on step by step as they were seen, and are found by place and words', async () => {
    const transfers = useTransferStore();
    const seen = { id: 3, version: 2 } as never;
    await transfers.step(seen, 'sent');
    await transfers.takeIn(seen, [1000, 0]);
    await transfers.findItems(2, { find: 'reed & co' });
    expect(net.write.mock.calls).toEqual([
      ['POST', '/transfers/3/sent', { version: 2 }],
      ['POST', '/transfers/3/arrived', { version: 2, lines: [1000, 0] }],
    ]);
    expect(net.read).toHaveBeenCalledWith('/transfers/items?place=2&find=reed+%26+co');
  });

  it('are listed page by page, and so again when something changes', async () => {
    const transfers = useTransferStore();
    const pages = [
      { transfers: [{ id: 3 }, { id: 2 }], count: 3 },
      { transfers: [{ id: 2 }, { id: 1 }], count: 3 },
    ];
    net.read.mockImplementation((path: string) =>
      Promise.resolve(pages[Number(new URLSearchParams(path.split('?')[1]).get('page'))]),
    );
    await transfers.load();
    expect(transfers.page).toEqual(pages[0]);
    await transfers.more();
    // What came meanwhile has moved one to the next page: it is there once.
    const ids = () => transfers.page?.transfers.map(({ id }) => id);
    expect(ids()).toEqual([3, 2, 1]);
    transfers.follow();
    pages[1] = { transfers: [{ id: 2 }], count: 2 };
    tell({ kind: 'supply-changed' });
    await eventually(() => expect(ids()).toEqual([3, 2]));
  });

  it('are looked at though they are not listed, and asked for only then', async () => {
    const transfers = useTransferStore();
    net.read.mockResolvedValueOnce({ transfers: [{ id: 3 }], count: 9 });
    await transfers.load();
    await transfers.look(3);
    expect([net.read.mock.calls.length, transfers.looked]).toEqual([1, { id: 3 }]);
    net.read.mockResolvedValueOnce({ id: 1, version: 2 });
    await transfers.look(1);
    expect([net.read.mock.lastCall, transfers.looked]).toEqual([['/transfers/1'], { id: 1, version: 2 }]);
    // It is one of those that are listed now, as it stands there.
    net.read.mockResolvedValueOnce({ transfers: [{ id: 1, version: 3 }], count: 1 });
    await transfers.loadAgain();
    expect(transfers.looked).toEqual({ id: 1, version: 3 });
    net.read.mockRejectedValueOnce(new Error('There is no such transfer.'));
    await expect(transfers.look(77)).rejects.toThrow('no such transfer');
    expect(transfers.looked).toBeUndefined();
  });
});
