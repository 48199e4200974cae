import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { ApiProblem } from '../net/problem.ts';
import { usePaymentSetupStore } from './paymentSetupStore.ts';
import { useSetupStore } from './setupStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn(), changeSetup: vi.fn() }));
vi.mock('../net/api.ts', () => net);
const stores = vi.hoisted(() => ({
  session: { welcome: {} as object | null, find: vi.fn() },
  till: { load: vi.fn() },
}));
vi.mock('../staff/sessionStore.ts', () => ({ useSessionStore: () => stores.session }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset().mockResolvedValue({ seen: 12, shop: 'as it is now' });
  net.changeSetup.mockReset().mockResolvedValue({});
  net.write.mockReset().mockResolvedValue({});
  stores.session.welcome = { places: 1 };
  stores.session.find.mockReset();
  stores.till.load.mockReset();
});

describe('what the manager sets up', () => {
  it('is read again everywhere once it is stored: on the page, at the till, and what this person may do', async () => {
    const setup = useSetupStore();
    await setup.setRight('cashier', 'sell', false);
    expect(net.changeSetup).toHaveBeenCalledWith(0, 'PUT', '/setup/rights', {
      role: 'cashier',
      right: 'sell',
      granted: false,
    });
    expect(setup.facts).toEqual({ seen: 12, shop: 'as it is now' });
    expect([stores.till.load, stores.session.find].map(({ mock }) => mock.calls.length)).toEqual([1, 1]);
    expect(stores.session.welcome).toBeNull();
  });

  it('is changed by one press after the other: each knows what the one before has changed', async () => {
    const setup = useSetupStore();
    await setup.load();
    let seen = 12;
    net.read.mockImplementation(() => Promise.resolve({ seen }));
    net.changeSetup.mockImplementation((knows: number) => {
      if (knows !== seen) throw new Error('changed meanwhile');
      seen += 1;
      return Promise.resolve({});
    });
    await Promise.all([
      setup.setRight('cashier', 'sell', false),
      setup.setRight('cashier', 'sell', true),
      setup.addTaxCategory('Books'),
    ]);
    expect(seen).toBe(15);
  });

  it('stays as it was where it is refused, which is said to who asked', async () => {
    const setup = useSetupStore();
    net.changeSetup.mockRejectedValueOnce(new Error('The PIN is somebody else’s.'));
    await expect(setup.addStaff({ name: 'Ida', role: 'cashier', pin: '1357' })).rejects.toThrow('somebody');
    expect(net.read).not.toHaveBeenCalled();
    expect(stores.session.welcome).not.toBeNull();
  });

  it('is a new shop first, of which nothing else can be read yet', async () => {
    const setup = useSetupStore();
    await setup.setUpShop({ name: 'Corner' } as never);
    expect(net.read).not.toHaveBeenCalled();
    expect(stores.session.welcome).toBeNull();
  });

  it('sends what is changed to the address of the one that is meant, and nothing of its number with it', async () => {
    const setup = useSetupStore();
    await setup.changeStaff({ id: 4, name: 'Ida', role: 'supervisor', active: true } as never);
    await setup.savePartner(null, { name: 'North' } as never, 7);
    await setup.savePartner(2, { name: 'South' } as never, 8);
    // What is changed at once stands as it was read last; a form knows what its person has seen.
    expect(net.changeSetup.mock.calls).toEqual([
      [0, 'PUT', '/setup/staff/4', { name: 'Ida', role: 'supervisor', active: true }],
      [7, 'POST', '/setup/partners', { name: 'North' }],
      [8, 'PUT', '/setup/partners/2', { name: 'South' }],
    ]);
    await setup.renewCalendar();
    expect(net.changeSetup).toHaveBeenLastCalledWith(12, 'POST', '/setup/calendar-key', {});
  });

  it('is read again where another one has changed it meanwhile, so that it can be changed then', async () => {
    const setup = useSetupStore();
    const details = { type: 'changed-meanwhile', title: 'Changed.', status: 409 } as const;
    net.changeSetup.mockRejectedValueOnce(new ApiProblem(details));
    await expect(setup.setRight('cashier', 'sell', true)).rejects.toThrow('Changed.');
    expect(setup.facts?.seen).toBe(12);
    net.changeSetup.mockRejectedValueOnce(new ApiProblem(details));
    const payment = usePaymentSetupStore();
    await expect(payment.offer(1, 2, true)).rejects.toThrow('Changed.');
    expect(net.read.mock.calls).toEqual([['/setup/facts'], ['/payment/settings']]);
  });

  it('asks for earlier changes from the last one that is shown', async () => {
    const setup = useSetupStore();
    await setup.changes('Tills', 'printer & drawer');
    await setup.changes('Tills', '', 55);
    expect(net.read.mock.calls).toEqual([
      ['/setup/changes?section=Tills&find=printer+%26+drawer'],
      ['/setup/changes?section=Tills&find=&before=55'],
    ]);
  });
});

describe('how the shop takes money', () => {
  it('is read again here and at the till once it is stored', async () => {
    const payment = usePaymentSetupStore();
    await payment.offer(1, 3, true);
    const offered = { tillId: 1, terminalId: 3, offered: true };
    expect(net.changeSetup).toHaveBeenCalledWith(0, 'PUT', '/payment/terminals/till', offered);
    expect(net.read).toHaveBeenCalledWith('/payment/settings');
    expect(stores.till.load).toHaveBeenCalledOnce();
    net.changeSetup.mockRejectedValueOnce(new Error('no such terminal'));
    await expect(payment.pair({ name: 'Left', code: '99', tillId: 1 })).rejects.toThrow('no such terminal');
    expect(stores.till.load).toHaveBeenCalledOnce();
  });

  it('moves a means of payment one step for each press, also before the first is stored', async () => {
    let order = [1, 2, 3, 4];
    net.read.mockImplementation(() => Promise.resolve({ seen: 12, types: order.map((id) => ({ id })) }));
    net.changeSetup.mockImplementation((_seen, _method, _path, { ids }: { ids: string }) => {
      order = ids.split(',').map(Number);
      return Promise.resolve({});
    });
    const setup = usePaymentSetupStore();
    await setup.load();
    await Promise.all([setup.move(4, -1), setup.move(4, -1), setup.move(1, 1)]);
    expect(order).toEqual([4, 1, 2, 3]);
    // What is refused holds up nothing, and what stands at the end stays there.
    net.changeSetup.mockRejectedValueOnce(new Error('no'));
    await expect(setup.move(4, 1)).rejects.toThrow('no');
    await setup.move(4, -1);
    expect([order, net.changeSetup.mock.calls.length]).toEqual([[4, 1, 2, 3], 4]);
  });
});
