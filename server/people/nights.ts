import { DateTime } from 'luxon';
import type { House, Sender } from '../house.ts';
import { shopToday } from '../promises/rows.ts';
import { startSender } from '../sender.ts';
import { findShop } from '../shop/store.ts';
import { fillAll } from './groupsFilling.ts';
import { endPoints } from './loyaltyStore.ts';

const SOONEST_MS = 60_000;

/**
 * What happens to customers once a day, soon after midnight where the shop is, and when the application starts: groups that
 * have a rule fill themselves, and points whose day is over end.
 */
export function startNights({
  database,
  clock,
  log,
  events,
}: Pick<House, 'database' | 'clock' | 'log' | 'events'>): Sender {
  return startSender(
    { clock, log },
    {
      what: 'looking after customers at night',
      soonestMs: SOONEST_MS,
      async sendDue() {
        const at = clock.now();
        const changed = await database.write(async (sql) => {
          if (!(await findShop(sql))) return 0;
          const today = await shopToday(sql, at);
          return (await fillAll(sql, today, at)) + (await endPoints(sql, today, at));
        });
        if (changed > 0) events.tell({ kind: 'people-changed', customerId: null });
      },
      nextDue: () =>
        database.ask(async (sql) => {
          const shop = await findShop(sql);
          if (!shop) return null;
          const now = DateTime.fromJSDate(clock.now(), { zone: shop.timezone });
          return now.plus({ days: 1 }).startOf('day').toUTC().toISO();
        }),
    },
  );
}
