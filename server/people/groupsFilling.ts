import { DateTime } from 'luxon';
import type { Writer } from '../db/database.ts';
import type { House, Sender } from '../house.ts';
import { shopToday } from '../promises/rows.ts';
import { startSender } from '../sender.ts';
import { readShop } from '../shop/store.ts';
import { fillGroup, groupsToFill, hasRules, noteMoved } from './groupStore.ts';

const SOONEST_MS = 60_000;

/** Follows the rules that were not followed on a day yet. @returns how many came or went */
export async function fillAll(sql: Writer, today: string, at: Date): Promise<number> {
  let changed = 0;
  for (const group of await groupsToFill(sql, today)) {
    const moved = await fillGroup(sql, group, today);
    if (moved.length > 0) await noteMoved(sql, group.name, moved, at);
    changed += moved.length;
  }
  return changed;
}

/** Fills groups that have a rule once a day, soon after midnight where the shop is, and when the application starts. */
export function startGroups({
  database,
  clock,
  log,
  events,
}: Pick<House, 'database' | 'clock' | 'log' | 'events'>): Sender {
  return startSender(
    { clock, log },
    {
      what: 'filling groups',
      soonestMs: SOONEST_MS,
      async sendDue() {
        if (!(await database.ask(hasRules))) return;
        const at = clock.now();
        const changed = await database.write(async (sql) => fillAll(sql, await shopToday(sql, at), at));
        if (changed > 0) events.tell({ kind: 'people-changed', customerId: null });
      },
      nextDue: () =>
        database.ask(async (sql) => {
          if (!(await hasRules(sql))) return null;
          const { timezone } = await readShop(sql);
          const now = DateTime.fromJSDate(clock.now(), { zone: timezone });
          return now.plus({ days: 1 }).startOf('day').toUTC().toISO();
        }),
    },
  );
}
