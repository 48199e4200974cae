import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { NewCertificate } from '../../contract/giftCards.ts';
import { ApiProblem } from '../net/problem.ts';
import { useGiftCardSaleStore } from './giftCardSaleStore.ts';
import { useGiftCardsStore } from './giftCardsStore.ts';
import { fakeBasket, type FakeBasket } from '../testing/fakeBasket.ts';
import { late } from '../../contract/testing/late.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
const catalogue = vi.hoisted(() => ({ find: vi.fn() }));
vi.mock('../sale/catalogue/thread.ts', () => ({ catalogue }));
const stores = vi.hoisted(() => ({
  basket: {} as Record<string, unknown>,
  till: { facts: { payment: { giftCardItemId: 99 as number | null } } },
  payment: { enquire: vi.fn() },
}));
vi.mock('../payment/paymentStore.ts', () => ({ usePaymentStore: () => stores.payment }));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));

const CARD = {
  id: 99,
  number: 'GIFT',
  name: 'Gift card',
  price: null,
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
};
const card = (id: number) => ({ value: { id }, moves: [] });
let basket: FakeBasket;

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset();
  catalogue.find.mockReset().mockResolvedValue([CARD]);
  stores.till.facts.payment.giftCardItemId = 99;
  basket = fakeBasket();
  stores.basket = basket;
});

describe('a gift card that is sold', () => {
  const wanted = { number: '10000000017', amount: 5_000, topUp: false, mail: '' };

  it('is a line with its number, and where it is mailed to', async () => {
    const selling = useGiftCardSaleStore();
    expect(await selling.add(wanted)).toBe('');
    await selling.add({ ...wanted, number: '10000000025', topUp: true, mail: 'mo@example.test' });
    expect(basket.basket.lines).toMatchObject([
      { listPrice: 5_000, storedValue: { number: '10000000017', kind: 'gift-card' } },
      { storedValue: { number: '10000000025', topUp: true, mail: 'mo@example.test' } },
    ]);
    expect(basket.basket.lines[0]?.storedValue).not.toHaveProperty('mail');
  });

  it('is in a basket once', async () => {
    const selling = useGiftCardSaleStore();
    await selling.add(wanted);
    expect(await selling.add(wanted)).toBe('10000000017 is in the basket already.');
    expect(basket.basket.lines).toHaveLength(1);
  });

  it('is none where the shop sells none, or the payment before is being stored', async () => {
    const selling = useGiftCardSaleStore();
    basket.readyForGoods.mockReturnValue(false);
    expect(await selling.add(wanted)).toContain('still being stored');
    stores.till.facts.payment.giftCardItemId = null;
    expect(await selling.add(wanted)).toBe('The shop sells no gift cards.');
    expect(basket.change).not.toHaveBeenCalled();
  });

  it('is looked up once by its number, and not at all where the till made it up', async () => {
    const selling = useGiftCardSaleStore();
    const holder = { number: '10000000041' };
    stores.payment.enquire.mockResolvedValueOnce(holder);
    expect(await selling.holderOf('10000000041')).toBe(holder);
    const nobody = new ApiProblem({ type: 'no-card', title: 'There is none.', status: 404 } as never);
    stores.payment.enquire.mockRejectedValueOnce(nobody);
    expect(await selling.holderOf('10000000017')).toBeNull();
    net.read.mockResolvedValue({ number: '10000000033' });
    expect(await selling.holderOf(await selling.freshNumber())).toBeNull();
    expect(await selling.holderOf('10000000017')).toBeNull();
    expect(stores.payment.enquire).toHaveBeenCalledTimes(2);
    // Once it is sold it may have an owner.
    await selling.add(wanted);
    stores.payment.enquire.mockResolvedValueOnce(holder);
    expect(await selling.holderOf('10000000017')).toBe(holder);
    // Too many guesses say nothing about this one.
    const later = new ApiProblem({
      type: 'wait',
      title: 'Wait.',
      status: 429,
      data: { seconds: 2 },
    } as never);
    stores.payment.enquire.mockRejectedValueOnce(later).mockResolvedValueOnce(holder);
    expect(await selling.holderOf('10000000058')).toBeNull();
    expect(await selling.holderOf('10000000058')).toBe(holder);
  });

  it('gets a number that no card has', async () => {
    net.read.mockResolvedValue({ number: '10000000033' });
    expect(await useGiftCardSaleStore().freshNumber()).toBe('10000000033');
  });
});

describe('gift cards and certificates', () => {
  it('are searched without their numbers in an address', async () => {
    const values = useGiftCardsStore();
    net.write.mockResolvedValue({ rows: [], count: 0 });
    Object.assign(values.filter, { find: '10000000017', kind: 'gift-card' });
    values.number = 3;
    await values.load();
    expect(net.write).toHaveBeenCalledWith('POST', '/gift-cards/search', {
      find: '10000000017',
      kind: 'gift-card',
      state: '',
      page: 3,
    });
    expect(values.query()).toBe('kind=gift-card&state=');
  });

  it('are read again after each change, with the list', async () => {
    const values = useGiftCardsStore();
    net.write.mockResolvedValue({ id: 6, number: '10000000025', count: 2, amount: 700 });
    net.read.mockResolvedValue({ value: { id: 4 }, moves: [] });
    const searches = () => net.write.mock.calls.filter(([, path]) => String(path).endsWith('/search')).length;
    await values.look(4);
    await values.change(4, 'freeze');
    expect([net.write.mock.calls[0]?.[1], values.open?.value.id]).toEqual(['/gift-cards/4/freeze', 4]);
    expect(await values.move(4, '10000000025')).toMatchObject({ id: 6 });
    expect(await values.addCertificate({ amount: 100 } as NewCertificate)).toBe(6);
    expect(await values.importCsv('number;amount')).toMatchObject({ count: 2 });
    expect(await values.writeOffExpired()).toMatchObject({ amount: 700 });
    expect(searches()).toBe(5);
    await values.look(undefined);
    expect(values.open).toBeNull();
  });

  it('show the one that was opened last, and none once it is closed', async () => {
    const cards = useGiftCardsStore();
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

  it('do not come back in the place of another one after a change that took longer', async () => {
    const cards = useGiftCardsStore();
    net.read.mockImplementation((path: string) => Promise.resolve(card(Number(path.split('/').at(-1)))));
    await cards.look(1);
    const written = late();
    net.write.mockReturnValueOnce(written.promise);
    const change = cards.change(1, 'freeze');
    const look = cards.look(2);
    written.come({});
    await Promise.all([change, look]);
    expect(cards.open).toEqual(card(2));
  });

  it('stay as they were where a change is refused', async () => {
    const cards = useGiftCardsStore();
    net.write.mockRejectedValueOnce(new Error('not now'));
    await expect(cards.change(5, 'freeze')).rejects.toThrow('not now');
    expect(net.read).not.toHaveBeenCalled();
  });
});
