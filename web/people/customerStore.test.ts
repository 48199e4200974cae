import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import { eventually } from '../../contract/testing/eventually.ts';
import type { CustomerPanel, NewCustomer, Visit } from '../../contract/people.ts';
import type { TypedDiscount } from '../../core/pricing/discount.ts';
import { ApiProblem } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { tell } from '../testing/houseEvents.ts';
import { useCustomerStore } from './customerStore.ts';
import { fakeBasket, type FakeBasket } from '../testing/fakeBasket.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), writeSurely: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));
const catalogue = vi.hoisted(() => ({ find: vi.fn() }));
vi.mock('../sale/catalogue/thread.ts', () => ({ catalogue }));
const stores = vi.hoisted(() => ({
  basket: {} as Record<string, unknown>,
  ringUp: { caughtUp: () => Promise.resolve(), add: vi.fn() },
  till: {} as Record<string, unknown>,
}));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('../sale/ringUpStore.ts', () => ({ useRingUpStore: () => stores.ringUp }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));

const panelOf = (id: number, groups: string[] = []) =>
  ({ id, name: `Customer ${id}`, groups, accounts: [] }) as unknown as CustomerPanel;
const MEMBERS = {
  id: 5,
  name: 'Members',
  size: { kind: 'rate', rate: 50_000 },
  needsCustomer: true,
  group: 'Band Circle',
};
const discount = (presetId: number) =>
  ({ id: `d${presetId}`, presetId, reason: '' }) as unknown as TypedDiscount;

let basket: FakeBasket;
const words = () => useNoticeStore().notice?.text;
/** Everything that follows from a change has happened. */
const settled = async () => {
  for (let turn = 0; turn < 10; turn++) await nextTick();
};

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of [net.read, net.writeSurely, catalogue.find, stores.ringUp.add]) one.mockReset();
  basket = fakeBasket();
  stores.basket = basket;
  stores.till = { facts: { discountPresets: [MEMBERS] } };
});

describe('the customer of the sale', () => {
  it('is read once they are on it, and gone with them', async () => {
    const customers = useCustomerStore();
    net.read.mockResolvedValue(panelOf(4));
    await customers.choose({ id: 4, name: 'Customer 4' });
    await settled();
    expect(net.read).toHaveBeenCalledWith('/people/customers/4');
    expect(customers.panel?.id).toBe(4);
    await customers.takeOff();
    await settled();
    expect(customers.panel).toBeNull();
  });

  it('is whoever is on the sale when the answer comes', async () => {
    const customers = useCustomerStore();
    let first = (_panel: CustomerPanel): void => {};
    net.read.mockReturnValueOnce(new Promise<CustomerPanel>((come) => (first = come)));
    await customers.choose({ id: 4, name: 'Customer 4' });
    await nextTick();
    net.read.mockResolvedValue(panelOf(5));
    await customers.choose({ id: 5, name: 'Customer 5' });
    await settled();
    first(panelOf(4));
    await settled();
    expect(customers.panel?.id).toBe(5);
  });

  it('is the record that stays, where two were merged', async () => {
    const customers = useCustomerStore();
    net.read.mockResolvedValue(panelOf(2));
    await customers.choose({ id: 9, name: 'Twice' });
    await settled();
    expect(basket.basket.customer).toEqual({ id: 2, name: 'Customer 2' });
  });

  it('is read again when somebody changed them elsewhere', async () => {
    const customers = useCustomerStore();
    customers.follow();
    net.read.mockResolvedValue(panelOf(4));
    await customers.choose({ id: 4, name: 'Customer 4' });
    await settled();
    tell({ kind: 'people-changed', customerId: 7 });
    expect(net.read).toHaveBeenCalledTimes(1);
    tell({ kind: 'people-changed', customerId: null });
    tell({ kind: 'people-changed', customerId: 4 });
    await eventually(() => expect(net.read).toHaveBeenCalledTimes(3));
  });
});

describe('a card that is scanned', () => {
  it('puts who has it on the sale', async () => {
    const customers = useCustomerStore();
    net.read.mockResolvedValue(panelOf(4));
    expect(await customers.takeCard('M 0001')).toBe(true);
    expect(net.read).toHaveBeenCalledWith('/people/cards/M%200001');
    expect(basket.basket.customer?.id).toBe(4);
    expect(words()).toBe('Customer 4 is on the sale.');
  });

  it('that is none leaves it to others; one that counts no more is said', async () => {
    const customers = useCustomerStore();
    net.read.mockRejectedValueOnce(
      new ApiProblem({ type: 'not-found', title: 'None.', status: 404 } as never),
    );
    expect(await customers.takeCard('X-1')).toBe(false);
    net.read.mockRejectedValueOnce(
      new ApiProblem({ type: 'card-stopped', title: 'This card was stopped.', status: 409 } as never),
    );
    expect(await customers.takeCard('M-2')).toBe(true);
    expect(words()).toContain('This card was stopped.');
    expect(basket.basket.customer).toBeUndefined();
  });
});

describe('somebody new', () => {
  it('is created once for one form, however often it is pressed', async () => {
    const customers = useCustomerStore();
    const wanted = { name: 'Ada Quill', phone: '' } as NewCustomer;
    net.writeSurely.mockRejectedValueOnce(new Error('gone')).mockResolvedValue(panelOf(8));
    await expect(customers.create(wanted)).rejects.toThrow('gone');
    await customers.create(wanted);
    await customers.add({ ...wanted, name: 'Ada Quill II' });
    const keys = net.writeSurely.mock.calls.map((call): unknown => call[3]);
    expect(keys[0]).toBe(keys[1]);
    expect(keys[2]).not.toBe(keys[0]);
    expect(basket.basket.customer?.id).toBe(8);
    // What was answered needs not be read again.
    await settled();
    expect(net.read).not.toHaveBeenCalled();
  });
});

describe('a member’s discount', () => {
  it('goes with the member and comes back with them', async () => {
    const customers = useCustomerStore();
    net.read.mockImplementation((path: string) =>
      Promise.resolve(path.endsWith('/4') ? panelOf(4, ['Band Circle']) : panelOf(5)),
    );
    await customers.choose({ id: 4, name: 'Customer 4' });
    await settled();
    basket.basket = { ...basket.basket, discounts: [discount(5)] };
    await customers.choose({ id: 5, name: 'Customer 5' });
    await settled();
    expect(basket.basket.discounts).toEqual([]);
    expect(words()).toBe('Members went with the customer.');
    await customers.choose({ id: 4, name: 'Customer 4' });
    await settled();
    expect(basket.basket.discounts).toEqual([discount(5)]);
    expect(words()).toBe('Members is back on the sale.');
  });

  it('does not come back to another sale', async () => {
    const customers = useCustomerStore();
    net.read.mockResolvedValue(panelOf(4, ['Band Circle']));
    await customers.choose({ id: 4, name: 'Customer 4' });
    await settled();
    basket.basket = { ...basket.basket, discounts: [discount(5)] };
    await customers.takeOff();
    await settled();
    expect(basket.basket.discounts).toEqual([]);
    basket.basket = { id: 'b2', lines: [] };
    await customers.choose({ id: 4, name: 'Customer 4' });
    await settled();
    expect(basket.basket.discounts).toBeUndefined();
  });
});

describe('an earlier visit', () => {
  it('is rung up again, and what is no longer sold is named', async () => {
    catalogue.find.mockResolvedValue([{ id: 1, name: 'Reeds' }]);
    const visit = {
      lines: [
        { itemId: 1, name: 'Reeds', quantity: 2_000 },
        { itemId: 2, name: 'Old metronome', quantity: 1_000 },
        { itemId: 1, name: 'Reeds', quantity: -1_000 },
      ],
    } as unknown as Visit;
    await useCustomerStore().orderAgain(visit);
    expect(stores.ringUp.add.mock.calls).toEqual([[{ id: 1, name: 'Reeds' }, 2_000]]);
    expect(words()).toBe('No longer sold: Old metronome.');
  });
});
