/**
 * The thread that prices baskets with much to choose: it keeps the offers of one revision, the other side sends
 * baskets.
 */
import { parentPort } from 'node:worker_threads';
import { indexOffers, type OfferIndex } from '../../core/offers/offerUnits.ts';
import { priceBasket, type PricedBasket } from '../../core/pricing/price.ts';
import type { ToPrice } from './pricing.ts';

const port = parentPort;
if (!port) throw new Error('this file runs in a worker thread');

let index: OfferIndex | undefined;

function price({ lines, rules, discounts, situation, offers }: ToPrice): PricedBasket {
  if (offers) index = indexOffers(offers);
  if (!index) throw new Error('no offers were sent');
  return priceBasket(lines, rules, discounts, { index, situation });
}

port.on('message', (question: ToPrice) => {
  try {
    port.postMessage({ to: question.id, priced: price(question) });
  } catch (error) {
    port.postMessage({ to: question.id, error });
  }
});
