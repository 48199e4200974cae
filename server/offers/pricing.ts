import type { Worker } from 'node:worker_threads';
import { sum } from '../../core/money.ts';
import type { TypedDiscount } from '../../core/pricing/discount.ts';
import type { Offer, OfferSituation } from '../../core/offers/offer.ts';
import type { OfferIndex } from '../../core/offers/offerUnits.ts';
import {
  priceBasket,
  type LineToPrice,
  type PricedBasket,
  type PricingRules,
} from '../../core/pricing/price.ts';
import { ONE } from '../../core/quantity.ts';
import { startThread } from '../thread.ts';

/** A basket, and everything that it is priced by. */
export interface BasketToPrice {
  lines: readonly LineToPrice[];
  rules: PricingRules;
  discounts: readonly TypedDiscount[];
  situation: OfferSituation;
}

/** What is sent to the thread. */
export interface ToPrice extends BasketToPrice {
  id: number;
  /** The offers in force, where the thread has others. */
  offers?: readonly Offer[];
}

type Answer = { to: number; priced: PricedBasket } | { to: number; error: Error };

/** Prices baskets. What is quickly chosen is priced at once; for much, other tills need not wait. */
export interface Pricing {
  /** @param index offers in force; the same one as long as none has changed */
  price(basket: BasketToPrice, index: OfferIndex): Promise<PricedBasket>;
  stop(): Promise<void>;
}

/** Up to so many pairs of a unit and an offer that means it are gone through quicker than a thread is asked. */
const MOST_HERE = 24;

export function startPricing(): Pricing {
  const waiting = new Map<number, { resolve(priced: PricedBasket): void; reject(error: Error): void }>();
  let thread: { worker: Worker; index: OfferIndex | undefined } | undefined;
  let nextId = 1;

  function start(): NonNullable<typeof thread> {
    const worker = startThread('pricingThread');
    worker.unref();
    worker.on('message', (answer: Answer) => {
      const one = waiting.get(answer.to);
      waiting.delete(answer.to);
      if ('error' in answer) one?.reject(answer.error);
      else one?.resolve(answer.priced);
    });
    worker.on('error', end);
    worker.on('exit', () => end(new Error('the pricing thread has ended')));
    function end(error: Error): void {
      if (thread?.worker !== worker) return;
      // The next basket starts another one.
      thread = undefined;
      for (const { reject } of waiting.values()) reject(error);
      waiting.clear();
    }
    return { worker, index: undefined };
  }

  return {
    async price(basket, index) {
      const { lines, rules, discounts, situation } = basket;
      if (pairs(lines, index) <= MOST_HERE) return priceBasket(lines, rules, discounts, { index, situation });
      const asked = (thread ??= start());
      const id = nextId++;
      const offers = asked.index === index ? {} : { offers: index.offers };
      asked.index = index;
      return new Promise<PricedBasket>((resolve, reject) => {
        waiting.set(id, { resolve, reject });
        asked.worker.postMessage({ id, lines, rules, discounts, situation, ...offers } satisfies ToPrice);
      });
    },
    async stop() {
      await thread?.worker.terminate();
    },
  };
}

/** How much there is to choose among. */
const pairs = (lines: readonly LineToPrice[], index: OfferIndex): number =>
  sum(
    lines.map(
      ({ goods, quantity }) => (goods ? index.find(goods).size : 0) * Math.ceil(Math.abs(quantity) / ONE),
    ),
  );
