import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { tell } from '../testing/houseEvents.ts';
import { late } from '../../contract/testing/late.ts';
import { useItemSupplyStore } from './itemSupplyStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset().mockResolvedValue({ item: 1 });
  net.write.mockReset().mockResolvedValue({ item: 1, version: 2 });
});

describe('how an item is come by', () => {
  it('is of the item that is looked at: put away at once when it is another, whatever comes late', async () => {
    const supply = useItemSupplyStore();
    await supply.load(1);
    const slow = late();
    net.read.mockReturnValueOnce(slow.promise);
    const second = supply.load(2);
    expect(supply.supply).toBeNull();
    net.read.mockResolvedValueOnce({ item: 3 });
    await supply.load(3);
    slow.come({ item: 2 });
    await second;
    expect(supply.supply).toEqual({ item: 3 });
  });

  it('is shown as it stands after a change; a cost is put right against what was seen', async () => {
    const supply = useItemSupplyStore();
    await supply.putReorder(1, {
      ...{ placeId: 2, point: 3000, target: null },
      seen: { point: null, target: null },
    });
    expect(supply.supply).toEqual({ item: 1, version: 2 });
    await supply.correctCost({ id: 9, cost: 450 } as never, 500, 'Freight was missing');
    await supply.dropSource(1, 4);
    expect(net.write.mock.calls.slice(1)).toEqual([
      ['POST', '/supply/layers/9/cost', { cost: 500, was: 450, why: 'Freight was missing' }],
      ['DELETE', '/supply/items/1/suppliers/4'],
    ]);
  });

  it('is read again when goods moved, once one is looked at', async () => {
    const supply = useItemSupplyStore();
    supply.follow();
    tell({ kind: 'stock-changed' });
    expect(net.read).not.toHaveBeenCalled();
    await supply.load(1);
    tell({ kind: 'stock-changed' });
    tell({ kind: 'people-changed' });
    expect(net.read.mock.calls.map(([path]) => path as string)).toEqual([
      '/supply/items/1',
      '/supply/items/1',
    ]);
  });
});
