import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Item } from '../../core/goods/item.ts';
import { fakeBasket, type FakeBasket } from '../testing/fakeBasket.ts';
import { useGiftCardSaleStore } from './giftCardSaleStore.ts';

vi.mock('../net/api.ts', () => ({ read: vi.fn().mockResolvedValue({ number: '7000123' }) }));
const catalogue = vi.hoisted(() => ({ find: vi.fn() }));
vi.mock('../sale/catalogue/thread.ts', () => ({ catalogue }));
const stores = vi.hoisted(() => ({
  basket: {} as Record<string, unknown>,
  till: { facts: { payment: { giftCardItemId: 40 as number | null } } },
}));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));

const item = {
  id: 40,
  number: 'GIFT',
  name: 'Gift card',
  unit: 'each',
  decimals: 0,
  price: 0,
  taxCategoryId: 1,
  kind: 'stored-value',
} as unknown as Item;

let basket: FakeBasket;
beforeEach(() => {
  setActivePinia(createPinia());
  catalogue.find.mockReset().mockResolvedValue([item]);
  basket = fakeBasket();
  stores.basket = basket;
  stores.till.facts.payment.giftCardItemId = 40;
});

describe('a gift card that is sold', () => {
  it('is a line of the basket with its number, at what is put on it', async () => {
    const cards = useGiftCardSaleStore();
    expect(await cards.add({ number: '7000123', amount: 2500, topUp: false, mail: '' })).toBe('');
    expect(basket.lines).toMatchObject([
      { itemId: 40, quantity: 1000, storedValue: { number: '7000123', kind: 'gift-card' } },
    ]);
    expect(basket.lines[0]?.storedValue).not.toHaveProperty('topUp');
    expect(await cards.freshNumber()).toBe('7000123');
  });

  it('says where more is put on it, and where it is mailed', async () => {
    const cards = useGiftCardSaleStore();
    await cards.add({ number: '7000123', amount: 1000, topUp: true, mail: 'ana@mail.example' });
    expect(basket.lines[0]?.storedValue).toEqual({
      number: '7000123',
      kind: 'gift-card',
      topUp: true,
      mail: 'ana@mail.example',
    });
  });

  it('is refused in words where the shop sells none, or a payment is still being stored', async () => {
    const cards = useGiftCardSaleStore();
    basket.readyForGoods.mockReturnValueOnce(false);
    const card = { number: '7000123', amount: 1000, topUp: false, mail: '' };
    expect(await cards.add(card)).toContain('still being stored');
    stores.till.facts.payment.giftCardItemId = null;
    expect(await cards.add(card)).toBe('The shop sells no gift cards.');
    expect(basket.change).not.toHaveBeenCalled();
  });
});
