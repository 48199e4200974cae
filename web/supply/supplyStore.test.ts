import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import { late } from '../../contract/testing/late.ts';
import type { OrderPage } from '../../contract/supply.ts';
import { tell } from '../testing/houseEvents.ts';
import { useSupplyStore } from './supplyStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

const order = (id: number, version = 1) => ({ id, version }) as OrderPage;

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset();
});

describe('an order to a supplier', () => {
  it('is the one that was opened last, whichever is answered first', async () => {
    const supply = useSupplyStore();
    const slow = late<OrderPage>();
    net.read.mockReturnValueOnce(slow.promise);
    const first = supply.loadOrder(1);
    net.read.mockResolvedValueOnce(order(2));
    await supply.loadOrder(2);
    slow.come(order(1));
    await first;
    expect(supply.order).toEqual(order(2));
  });

  it('is put away while another one is read, and stays while it is read again', async () => {
    const supply = useSupplyStore();
    net.read.mockResolvedValueOnce(order(1));
    await supply.loadOrder(1);
    net.read.mockReturnValue(new Promise(() => {}));
    void supply.loadOrder(1);
    expect(supply.order).toEqual(order(1));
    void supply.loadOrder(2);
    expect(supply.order).toBeNull();
  });

  it('is found among all by words, by how far it is, and page by page', async () => {
    const supply = useSupplyStore();
    const found = { orders: [], deliveries: [], count: 0, today: '2026-03-02', suppliers: [], places: [] };
    net.read.mockResolvedValue(found);
    await supply.loadOrders();
    Object.assign(supply.listed, { show: 'deliveries', find: 'reed & co' });
    supply.listedPage = 2;
    await supply.loadOrders();
    expect(net.read.mock.calls).toEqual([
      ['/supply/orders?show=open&find=&page=0'],
      ['/supply/orders?show=deliveries&find=reed+%26+co&page=2'],
    ]);
    expect(supply.orders).toEqual(found);
  });

  it('is changed as it was seen, and shown as it stands then', async () => {
    const supply = useSupplyStore();
    net.write.mockResolvedValueOnce(order(1, 2));
    await supply.sendOrder(order(1), true);
    expect(net.write).toHaveBeenCalledWith('POST', '/supply/orders/1/sent', { version: 1, mail: true });
    expect(supply.order?.version).toBe(2);
  });

  it('is gone where it was a draft, and read again where goods are on their way', async () => {
    const supply = useSupplyStore();
    net.write.mockResolvedValueOnce({ gone: true }).mockResolvedValueOnce({ gone: false });
    expect(await supply.closeOrder(order(1))).toBe(true);
    expect(net.read).not.toHaveBeenCalled();
    net.read.mockResolvedValue(order(1, 3));
    await supply.loadOrder(1);
    expect(await supply.closeOrder(order(1))).toBe(false);
    expect(supply.order?.version).toBe(3);
  });

  it('that took longer to close does not come back in the place of another one', async () => {
    const supply = useSupplyStore();
    net.read.mockResolvedValueOnce(order(1)).mockResolvedValueOnce(order(2));
    await supply.loadOrder(1);
    const closed = late<{ gone: boolean }>();
    net.write.mockReturnValueOnce(closed.promise);
    const closing = supply.closeOrder(order(1));
    await supply.loadOrder(2);
    closed.come({ gone: false });
    await closing;
    expect(supply.order).toEqual(order(2));
  });

  it('is read again when something of it changed elsewhere', async () => {
    const again = vi.fn(() => Promise.reject(new Error('gone')));
    useSupplyStore().follow(again);
    tell({ kind: 'people-changed' });
    tell({ kind: 'supply-changed' });
    tell({ kind: 'connected' });
    await eventually(() => expect(again).toHaveBeenCalledTimes(2));
  });
});
