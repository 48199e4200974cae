import type { Basket } from '../../core/counter/basket.ts';
import { takesPoints } from '../../core/counter/basketCodes.ts';
import { sharesUses, type Offer } from '../../core/offers/offer.ts';
import { pointsTaken, type PricedBasket } from '../../core/pricing/price.ts';
import { write } from '../net/api.ts';
import { ApiProblem, Unreachable } from '../net/problem.ts';

/**
 * Holds the last uses of offers, and points, for a basket that is about to be paid, so that no other till promises
 * them.
 */
export interface OfferClaims {
  /** @returns what the server refused, or `null` where the basket may be paid as it is priced */
  hold(basket: Basket, priced: PricedBasket | null, offers: readonly Offer[]): Promise<ApiProblem | null>;
  /** Lets go what is held for a basket that is not paid after all. */
  letGo(basketId: string): void;
}

export function offerClaims(): OfferClaims {
  let held = false;
  return {
    async hold(basket, priced, offers) {
      const limited = new Set(offers.filter(sharesUses).map(({ id }) => id));
      const shown = (priced?.offers ?? []).filter(({ id }) => limited.has(id));
      if (shown.length === 0 && !basket.codes && !takesPoints(basket)) return null;
      try {
        await write('POST', '/counter/claims', {
          basket,
          offers: shown.map(({ id, uses }) => ({ offerId: id, uses })),
          points: priced ? pointsTaken(priced) : 0,
        });
        held = true;
      } catch (error) {
        if (error instanceof ApiProblem) return error;
        // Who cannot be asked now is asked again when the sale is finished.
        if (!(error instanceof Unreachable)) throw error;
      }
      return null;
    },
    letGo(basketId) {
      if (!held) return;
      held = false;
      void write('DELETE', `/counter/claims/${basketId}`, {}).catch(() => {});
    },
  };
}
