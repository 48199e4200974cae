/** The thread that prices past baskets with a draft: it keeps the sums, the other side sends baskets. */
import { parentPort, workerData } from 'node:worker_threads';
import type { RehearsalFindings } from '../../contract/offers.ts';
import type { Offer } from '../../core/offers/offer.ts';
import { noSums, rehearseBasket, rehearsed, type PastBasket } from '../../core/offers/rehearse.ts';

const port = parentPort;
if (!port) throw new Error('this file runs in a worker thread');

const { draft, live } = workerData as { draft: Offer; live: Offer[] };
const offers = rehearsed(draft, live);
const sums = noSums();

/** Baskets that changed most are listed, so many. */
const MOST_CHANGED = 500;

function findings(): RehearsalFindings {
  const { days, others, changed, ...rest } = sums;
  return {
    ...rest,
    days: [...days].map(([day, one]) => ({ day, ...one })).sort((a, b) => (a.day < b.day ? -1 : 1)),
    others: [...others]
      .map(([offerId, one]) => ({ offerId, ...one }))
      .filter(({ before, after }) => before !== after)
      .sort((a, b) => a.after - a.before - (b.after - b.before)),
    changed: changed
      .toSorted((a, b) => a.after - a.before - (b.after - b.before) || (a.number < b.number ? -1 : 1))
      .slice(0, MOST_CHANGED),
  };
}

port.on('message', (baskets: PastBasket[]) => {
  for (const basket of baskets) rehearseBasket(basket, offers, sums);
  port.postMessage(findings());
});
