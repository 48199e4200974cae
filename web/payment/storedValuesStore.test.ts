import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { late } from '../testing/late.ts';
import { useStoredValuesStore } from './storedValuesStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);

const card = (id: number) => ({ value: { id }, moves: [] });

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset().mockResolvedValue({});
});

describe('gift cards', () => {
  it('show the one that was opened last, and none once it is closed', async () => {
    const cards = useStoredValuesStore();
    const [first, second] = [late(), late()];
    net.read.mockReturnValueOnce(first.promise).mockReturnValueOnce(second.promise);
    const looks = [cards.look(1), cards.look(2)];
    second.come(card(2));
    first.come(card(1));
    await Promise.all(looks);
    expect(cards.open).toEqual(card(2));
    const slow = late();
    net.read.mockReturnValueOnce(slow.promise);
    const third = cards.look(3);
    await cards.look(undefined);
    slow.come(card(3));
    await third;
    expect(cards.open).toBeNull();
  });

  it('are listed by what is asked for, and again after each change', async () => {
    const cards = useStoredValuesStore();
    Object.assign(cards.filter, { find: '4471', kind: 'gift-card', state: 'frozen' });
    cards.number = 2;
    net.read.mockResolvedValue(card(5));
    await cards.change(5, 'unfreeze');
    expect(net.write.mock.calls).toEqual([
      ['POST', '/payment/stored-values/5/unfreeze'],
      [
        'POST',
        '/payment/stored-values/search',
        { find: '4471', kind: 'gift-card', state: 'frozen', page: 2 },
      ],
    ]);
    expect(cards.open).toEqual(card(5));
    expect(cards.query()).toBe('kind=gift-card&state=frozen');
  });

  it('are moved to another number, written off, and brought in as a list, with what that came to', async () => {
    const cards = useStoredValuesStore();
    net.write.mockResolvedValueOnce({ id: 8, number: '7001' });
    expect(await cards.move(5, '7001')).toEqual({ id: 8, number: '7001' });
    net.write.mockClear().mockResolvedValueOnce({ count: 2, amount: 1500 });
    expect(await cards.writeOffExpired()).toEqual({ count: 2, amount: 1500 });
    expect(net.write).toHaveBeenCalledTimes(2);
    net.write.mockResolvedValueOnce({ count: 3, amount: 6000 });
    expect(await cards.importCsv('number;amount')).toEqual({ count: 3, amount: 6000 });
    net.write.mockResolvedValueOnce({ id: 31 });
    expect(await cards.addCertificate({ number: 'C-1' } as never)).toBe(31);
  });

  it('stay as they were where a change is refused', async () => {
    const cards = useStoredValuesStore();
    net.write.mockRejectedValueOnce(new Error('not now'));
    await expect(cards.change(5, 'freeze')).rejects.toThrow('not now');
    expect(net.read).not.toHaveBeenCalled();
  });
});
