import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { KeptOffer } from '../../contract/offers.ts';
import { plainOffer } from '../../core/offers/testing/plainOffer.ts';
import { late } from '../../contract/testing/late.ts';
import { useOffersStore } from './offersStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
const catalogue = vi.hoisted(() => ({ find: vi.fn() }));
vi.mock('../sale/catalogue/thread.ts', () => ({ catalogue }));
vi.mock('../shop/tillStore.ts', () => ({
  useTillStore: () => ({ facts: { points: { word: 'beats' } }, digits: 2 }),
}));

const offer = (id: number, itemIds: number[]) =>
  plainOffer(id, `Offer ${id}`, {
    kind: 'each',
    goods: { itemIds, categories: [] },
    off: { kind: 'percent', rate: 100_000 },
  }) as unknown as KeptOffer;
const choices = { places: [{ id: 1, name: 'Shop' }], groups: ['Schools'] };

/** The server has these offers from now on. */
const has = (...offers: KeptOffer[]) =>
  net.read.mockImplementation((path: string) => Promise.resolve(path === '/offers' ? offers : choices));

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset().mockResolvedValue({ id: 1 });
  catalogue.find
    .mockReset()
    .mockImplementation((ids: number[]) => Promise.resolve(ids.map((id) => ({ id, name: `Item ${id}` }))));
});

describe('the offers of the shop', () => {
  it('are as they were asked for last, though the names of their goods come late', async () => {
    const offers = useOffersStore();
    const names = late<{ id: number; name: string }[]>();
    catalogue.find.mockReturnValueOnce(names.promise);
    has(offer(1, [7]));
    const first = offers.load();
    await eventually(() => expect(catalogue.find).toHaveBeenCalledOnce());
    has(offer(1, [7]), offer(2, [8]));
    const second = offers.load();
    names.come([{ id: 7, name: 'Reeds' }]);
    await Promise.all([first, second]);
    expect(offers.offers?.map(({ id }) => id)).toEqual([1, 2]);
    expect([offers.places, offers.groups]).toEqual([choices.places, choices.groups]);
  });

  it('are said in words with the names of goods, each asked for once', async () => {
    const offers = useOffersStore();
    has(offer(1, [7]));
    await offers.load();
    await offers.load();
    expect(catalogue.find.mock.calls.map(([ids]) => ids as number[])).toEqual([[7], []]);
    expect(offers.words(offer(1, [7]))).toContain('Item 7');
    expect(offers.words(offer(1, [9]))).toContain('An item that is no longer sold');
  });

  it('are kept as new ones or in their place, and read again', async () => {
    const offers = useOffersStore();
    has(offer(4, []));
    net.write.mockResolvedValueOnce({ id: 4 });
    expect(await offers.keep(null, { name: 'Spring' } as never)).toBe(4);
    const seen = { id: 4, version: 3 };
    await offers.keep(seen, { name: 'Spring' } as never);
    await offers.setState(seen, 'live');
    await offers.withdrawCode('A/B');
    expect(net.write.mock.calls.map(([method, path]) => `${String(method)} ${String(path)}`)).toEqual([
      'POST /offers',
      'PUT /offers/4',
      'PUT /offers/4/state',
      'DELETE /offers/codes/A%2FB',
    ]);
    expect(net.write.mock.calls.slice(1, 3).map(([, , body]: unknown[]) => body)).toEqual([
      { offer: { name: 'Spring' }, version: 3 },
      { state: 'live', version: 3 },
    ]);
    expect(offers.offers?.map(({ id }) => id)).toEqual([4]);
    net.write.mockResolvedValueOnce({ codes: ['X1', 'X2'] });
    expect(await offers.addCodes(4, { code: '', count: 2 })).toEqual(['X1', 'X2']);
  });

  it('are read again where another one has changed them meanwhile: what is refused can be looked at', async () => {
    const offers = useOffersStore();
    has(offer(4, []));
    net.write.mockRejectedValueOnce(new Error('changed meanwhile'));
    await expect(offers.setState({ id: 4, version: 3 }, 'live')).rejects.toThrow('changed meanwhile');
    expect(offers.offers?.map(({ id }) => id)).toEqual([4]);
  });
});
