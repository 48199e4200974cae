import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { RelayAlert, RelayWanted } from '../../contract/relay.ts';
import { tell } from '../testing/houseEvents.ts';
import { useRelayStore } from './relayStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), writeSurely: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));
const basket = vi.hoisted(() => ({ continueWith: vi.fn() }));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => basket }));
const promises = vi.hoisted(() => ({ changed: vi.fn((view: unknown) => view) }));
vi.mock('./promiseStore.ts', () => ({ usePromiseStore: () => promises }));

const TERMS: RelayWanted = {
  partnerId: 1,
  day: '2026-03-03',
  part: 40_00,
  recipient: 'Wilma Corrin',
  street: 'Mill Lane 3',
  postcode: '51200',
  city: 'Dunmere',
  phone: '',
  wishes: '',
  card: '',
  goods: 'Strings',
  price: 50_00,
};
const alert = (id: number) => ({ id, promiseId: `p${id}` }) as RelayAlert;

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of [net.read, net.writeSurely, basket.continueWith, promises.changed]) one.mockReset();
  promises.changed.mockImplementation((view: unknown) => view);
});

describe('an order that is passed on', () => {
  it('is asked for with one key however often it is pressed, and with another for other terms', async () => {
    const relays = useRelayStore();
    net.writeSurely.mockRejectedValueOnce(new Error('gone'));
    net.writeSurely.mockResolvedValue({ number: 'R-0001', stored: { revision: 4 } });
    const keys = () => net.writeSurely.mock.calls.map((call): unknown => call[3]);
    await expect(relays.place(4, TERMS)).rejects.toThrow('gone');
    expect(await relays.place(4, TERMS)).toBe('R-0001');
    expect(keys()[0]).toBe(keys()[1]);
    await relays.place(4, { ...TERMS, part: 1 });
    expect(keys()[2]).not.toBe(keys()[1]);
    expect(basket.continueWith).toHaveBeenCalledWith({ revision: 4 });
  });

  it('is answered, and accepted from a partner, by its own address', async () => {
    const relays = useRelayStore();
    net.writeSurely.mockResolvedValue({ id: 'p1' });
    await relays.reply('p1', 'Which?');
    await relays.answer('p2', 'This one');
    expect(await relays.accept('p2', 'With pleasure')).toEqual({ id: 'p1' });
    expect(net.writeSurely.mock.calls.map((call): unknown => call[1])).toEqual([
      '/waiting/relays/p1/replies',
      '/waiting/relays/orders/p2/replies',
      '/waiting/relays/orders/p2/accepted',
    ]);
    expect(promises.changed).toHaveBeenCalledTimes(3);
  });
});

describe('alerts of what partners have said', () => {
  it('are read again when something came, and an answer that comes late changes nothing', async () => {
    const relays = useRelayStore();
    relays.follow();
    let late = (_alerts: RelayAlert[]): void => {};
    net.read.mockReturnValueOnce(new Promise<RelayAlert[]>((done) => (late = done)));
    tell({ kind: 'relays-changed' });
    net.read.mockResolvedValueOnce([alert(2)]);
    void relays.look();
    await eventually(() => expect(relays.alerts).toEqual([alert(2)]));
    late([alert(1)]);
    await relays.load().catch(() => {});
    expect(relays.alerts).toEqual([alert(2)]);
    net.read.mockResolvedValueOnce([alert(3)]);
    tell({ kind: 'connected' });
    await eventually(() => expect(relays.alerts).toEqual([alert(3)]));
    tell({ kind: 'held-changed' });
    expect(net.read).toHaveBeenCalledTimes(4);
  });

  it('go at once from the till that closes them', async () => {
    const relays = useRelayStore();
    net.read.mockResolvedValueOnce([alert(1), alert(2)]);
    await relays.look();
    net.writeSurely.mockResolvedValue(undefined);
    await relays.close(alert(1), false);
    expect(relays.alerts).toEqual([alert(2)]);
    expect(net.writeSurely).toHaveBeenCalledWith('POST', '/waiting/relays/alerts/1/closed', {
      opened: false,
    });
  });
});
