import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Basket } from '../../core/counter/basket.ts';
import type { Offer } from '../../core/offers/offer.ts';
import type { PricedBasket } from '../../core/pricing/price.ts';
import { ApiProblem, Unreachable } from '../net/problem.ts';
import { offerClaims } from './offerClaims.ts';

const net = vi.hoisted(() => ({ write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
beforeEach(() => net.write.mockReset().mockResolvedValue({}));

const basket = { id: 'b1', lines: [] } as Basket;
const pricedWith = (...offers: [id: number, uses: number, points?: number][]) =>
  ({
    offers: offers.map(([id, uses, points = 0]) => ({ id, uses, points })),
    pointsOff: null,
  }) as unknown as PricedBasket;
const offer = (id: number, total: number | null) =>
  ({ id, needs: 'nothing', limits: { perSale: null, perCustomer: null, total } }) as unknown as Offer;
const offers = [offer(1, null), offer(2, 5)];

describe('a basket that is about to be paid', () => {
  it('asks for nothing where no customers compete for what is on it', async () => {
    const claims = offerClaims();
    expect(await claims.hold(basket, pricedWith([1, 3]), offers)).toBeNull();
    claims.letGo(basket.id);
    expect(net.write).not.toHaveBeenCalled();
  });

  it('says which limited offers and how many points its customer was shown', async () => {
    const claims = offerClaims();
    const codes = [{ code: 'ONE', offerId: 2, single: true }];
    expect(await claims.hold({ ...basket, codes }, pricedWith([1, 3], [2, 2, 50]), offers)).toBeNull();
    expect(net.write.mock.calls).toEqual([
      [
        'POST',
        '/counter/claims',
        { basket: { ...basket, codes }, offers: [{ offerId: 2, uses: 2 }], points: 50 },
      ],
    ]);
    claims.letGo(basket.id);
    claims.letGo(basket.id);
    expect(net.write.mock.calls.slice(1)).toEqual([['DELETE', '/counter/claims/b1', {}]]);
  });

  it('hears that another was faster; a server that is away is asked again when the sale is finished', async () => {
    const claims = offerClaims();
    const refusal = new ApiProblem({ type: 'offer-used-up', title: 'Used up.', status: 409 });
    net.write.mockRejectedValueOnce(refusal);
    expect(await claims.hold(basket, pricedWith([2, 1]), offers)).toBe(refusal);
    net.write.mockRejectedValueOnce(new Unreachable());
    expect(await claims.hold(basket, pricedWith([2, 1]), offers)).toBeNull();
    net.write.mockRejectedValueOnce(new RangeError('nonsense'));
    await expect(claims.hold(basket, pricedWith([2, 1]), offers)).rejects.toThrow('nonsense');
  });
});
