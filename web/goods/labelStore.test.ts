import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useLabelStore } from './labelStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset();
});

describe('labels', () => {
  it('are one for each whole piece of a delivery that is not damaged, so many at most', async () => {
    net.read.mockResolvedValueOnce({
      lines: [
        { itemId: 1, quantity: 5000, damaged: 2000 },
        { itemId: 2, quantity: 2500, damaged: 0 },
        { itemId: 3, quantity: 1000, damaged: 1000 },
        { itemId: 4, quantity: 900_000, damaged: 0 },
      ],
    });
    expect(await useLabelStore().ofDelivery(8)).toEqual([
      { id: 1, copies: 3 },
      { id: 2, copies: 3 },
      { id: 4, copies: 200 },
    ]);
  });

  it('are printed, and what is due is read again', async () => {
    const labels = useLabelStore();
    net.write.mockResolvedValueOnce({ id: 6, labels: 24 });
    net.read.mockResolvedValueOnce({ changed: 0 });
    expect(await labels.print({ which: 'changed' } as never)).toEqual({ id: 6, labels: 24 });
    expect(labels.page).toEqual({ changed: 0 });
    expect(labels.sheetOf(6)).toBe('/api/goods/labels/6.pdf');
  });
});
