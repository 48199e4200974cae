import { nextDay } from '../clock.ts';
import type { House, Sender } from '../house.ts';
import { startSender } from '../sender.ts';
import { findShop, shopToday } from '../shop/store.ts';
import { fillAll } from './groupsFilling.ts';
import { readAccountRules } from './accountStore.ts';
import { remind } from './reminders.ts';
import { endPoints } from './loyaltyStore.ts';

const SOONEST_MS = 60_000;

/**
 * What happens to customers once a day, soon after midnight where the shop is, and when the application starts:
 * groups that have a rule fill themselves, points whose day is over end, and those who are overdue are reminded where
 * the shop wants it.
 */
export function startNights({
  database,
  clock,
  log,
  events,
  outbox,
}: Pick<House, 'database' | 'clock' | 'log' | 'events' | 'outbox'>): Sender {
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
          const { byItself } = await readAccountRules(sql);
          const reminded = byItself ? (await remind(sql, null, today, at)).sent : 0;
          return (await fillAll(sql, today, at)) + (await endPoints(sql, today, at)) + reminded;
        });
        if (changed > 0) outbox.wake();
        if (changed > 0) events.tell({ kind: 'people-changed', customerId: null });
      },
      nextDue: () =>
        database.ask(async (sql) => {
          const shop = await findShop(sql);
          return shop ? nextDay(clock.now(), shop.timezone) : null;
        }),
    },
  );
}
