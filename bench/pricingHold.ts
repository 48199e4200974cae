import { monitorEventLoopDelay } from 'node:perf_hooks';
import { v4 as newId } from 'uuid';
import type { OfferGoods } from '../core/offers/offer.ts';
import { EVERY_KIND, randomFrom, randomOffers } from '../core/offers/testing/randomOffers.ts';
import type { Serving } from '../server/serve.ts';
import { browserOf, openDrawer, type Browser } from '../server/testing/browser.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, quantile, timed, type Figure } from './measure.ts';
import { lineOf, plainGoods, scanner, type ScannedItem } from './scans.ts';

const ROUNDS = 300;
const OFFERS = 50;
const ITEMS = 24;

/**
 * A till's scans while another till has the server price hard baskets without end: thirty goods that fifty touching
 * offers mean, and 99,999 equal units. Nobody waits more than 50 ms for another one's prices.
 */
export const pricingHold = (): Promise<Figure[]> => onBothEngines(measure);

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const manager = browserOf(() => serving.url);
  await manager.signIn('8024', 1);
  await openDrawer(manager);
  const items = await plainGoods(serving.house.database, ITEMS);
  await writeOffers(manager, items);
  const other = browserOf(() => serving.url);
  await other.signIn('2468', 2);
  await openDrawer(other);

  const scan = scanner(manager, items);
  const scans = async () => {
    const samples: number[] = [];
    for (let round = 0; round < ROUNDS; round++) samples.push(await timed(scan));
    return samples;
  };
  await scans();
  const alone = await scans();
  const delay = monitorEventLoopDelay({ resolution: 1 });
  const pricing = priceWithoutEnd(other, items);
  delay.enable();
  const beside = await scans();
  delay.disable();
  const priced = await pricing.stop();
  const longest = delay.max / 1e6;
  const goal = { words: 'under 50 ms', met: (value: number) => value < 50 };
  return [
    figure(`pricing-hold ${engine} p95`, 'ms', quantile(beside, 0.95), quantile(alone, 0.95), ROUNDS),
    figure(`pricing-hold ${engine} blocked`, 'ms most', longest, quantile(alone, 0.5), ROUNDS, goal),
    figure(`pricing-hold ${engine} priced`, 'baskets', priced, ROUNDS, priced),
  ];
}

/** Fifty offers that touch each other, on goods of the shop; those that the editor refuses are written anew. */
async function writeOffers(manager: Browser, items: readonly ScannedItem[]): Promise<void> {
  const random = randomFrom(7);
  let live = 0;
  while (live < OFFERS) {
    const style = { items: ITEMS, kinds: EVERY_KIND, combining: 0.3, limited: 0.2 };
    for (const { id: _, ...offer } of randomOffers(random, OFFERS - live, style)) {
      const text = JSON.stringify(offer, (key, value: unknown) =>
        key === 'goods' ? goodsOf(value as OfferGoods, items) : value,
      );
      const { status, body } = await manager.ask<{ id: number }>('POST', '/offers', JSON.parse(text));
      if (status !== 200) continue;
      const { status: switched } = await manager.ask('PUT', `/offers/${body.id}/state`, {
        state: 'live',
        version: 1,
      });
      if (switched === 200) live += 1;
    }
  }
}

/** Goods of the shop for those of a made-up offer, whose categories are four goods that follow each other. */
function goodsOf({ itemIds, categories }: OfferGoods, items: readonly ScannedItem[]): OfferGoods {
  const places = [
    ...itemIds.map((id) => id - 1),
    ...categories.flatMap((name) => [0, 1, 2, 3].map((at) => Number(name.slice(1)) * 4 + at)),
  ];
  const ids = places.flatMap((at) => items[at % items.length]?.itemId ?? []);
  return { itemIds: [...new Set(ids)], categories: [] };
}

/** Asks for sales with a total that is wrong: each is priced, answered with its figures, and not stored. */
function priceWithoutEnd(till: Browser, items: readonly ScannedItem[]): { stop(): Promise<number> } {
  const random = randomFrom(11);
  let going = true;
  let priced = 0;
  const work = (async () => {
    while (going) {
      const units = (at: number) => (priced % 10 === 0 && at === 0 ? 99_999 : 1 + Math.floor(random() * 3));
      const lines = items.slice(0, 15).map((item, at) => lineOf(item, units(at)));
      const sale = { basket: { id: newId(), lines }, expectedTotal: 1, handed: 1 };
      const { status } = await till.ask('POST', '/counter/sales', sale, {
        'idempotency-key': sale.basket.id,
      });
      if (status !== 409) throw new Error(`a sale was answered ${status}`);
      priced += 1;
    }
  })();
  return {
    async stop() {
      going = false;
      await work;
      return priced;
    },
  };
}
