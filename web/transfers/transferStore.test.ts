import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import { tell } from '../testing/houseEvents.ts';
import { useTransferStore } from './transferStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

beforeEach(() => setActivePinia(createPinia()));

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
    transfers.follow();
    net.read.mockResolvedValueOnce({ rows: [3] });
    tell({ kind: 'supply-changed' });
    await eventually(() => expect(transfers.page).toEqual({ rows: [3] }));
  });
});
