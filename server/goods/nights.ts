import { nextDay } from '../clock.ts';
import type { House, Sender } from '../house.ts';
import { startSender } from '../sender.ts';
import { findShop } from '../shop/store.ts';
import { beginDay } from './pricesToCome.ts';

const SOONEST_MS = 60_000;

/**
 * Prices that count from a day on are taken in when that day begins where the shop is, and when the application
 * starts.
 */
export function startPriceDays({
  database,
  clock,
  log,
  events,
}: Pick<House, 'database' | 'clock' | 'log' | 'events'>): Sender {
  return startSender(
    { clock, log },
    {
      what: 'taking in the prices of the day',
      soonestMs: SOONEST_MS,
      async sendDue() {
        const changed = await database.write(async (sql) =>
          (await findShop(sql)) ? beginDay(sql, clock.now()) : 0,
        );
        if (changed > 0) events.tell({ kind: 'catalogue-changed' });
      },
      nextDue: () =>
        database.ask(async (sql) => {
          const shop = await findShop(sql);
          return shop ? nextDay(clock.now(), shop.timezone) : null;
        }),
    },
  );
}
