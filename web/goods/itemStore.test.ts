import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useItemStore } from './itemStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
});

describe('what the server knows of an item', () => {
  it('is not taken for nothing where it cannot be read', async () => {
    const items = useItemStore();
    net.read.mockRejectedValue(new Error('away'));
    await expect(items.facts(3)).rejects.toThrow('away');
    await expect(items.serialsOf(3)).rejects.toThrow('away');
  });

  it('is where else it is in stock, about which nothing is said when it cannot be asked', async () => {
    const items = useItemStore();
    const stock = [
      { place: 'Shop', here: true, quantity: 4 },
      { place: 'Cellar', here: false, quantity: 2 },
      { place: 'Attic', here: false, quantity: 0 },
    ];
    net.read.mockResolvedValueOnce({ stock });
    expect(await items.elsewhere(3)).toEqual([stock[1]]);
    net.read.mockRejectedValueOnce(new Error('away'));
    expect(await items.elsewhere(3)).toEqual([]);
    expect(useNoticeStore().notice).toBeNull();
  });
});
