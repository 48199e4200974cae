import { monitorEventLoopDelay } from 'node:perf_hooks';
import { setTimeout as wait } from 'node:timers/promises';
import type { StatementsJob } from '../contract/accounts.ts';
import type { Database } from '../server/db/database.ts';
import type { Serving } from '../server/serve.ts';
import { browserOf } from '../server/testing/browser.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, timed, type Figure } from './measure.ts';

const ACCOUNTS = 1_000;
const CHARGES = 12;
const LOOK_MS = 100;

/**
 * A statement for each of 1,000 accounts with twelve charges, in one file, while the server's thread is watched. The
 * floor is plain SQL that reads what stands on them.
 */
export const statements1000 = (): Promise<Figure[]> => onBothEngines(measure);

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const { database } = serving.house;
  await fill(database);
  const manager = browserOf(() => serving.url);
  await manager.signIn('8024', 1);
  const today = new Date().toISOString().slice(0, 10);
  const days = { from: `${Number(today.slice(0, 4)) - 1}-01-01`, to: today };
  const bare = await timed(() =>
    database.ask((sql) =>
      sql.query('select * from account_item where day <= $1 order by account_id, id', [today]),
    ),
  );
  const seen = new Set<number>();
  const delay = monitorEventLoopDelay({ resolution: 1 });
  delay.enable();
  const made = await timed(async () => {
    let job = (await manager.ask<StatementsJob>('POST', '/accounts/statements', days)).body;
    while (job.state === 'making') {
      await wait(LOOK_MS);
      job = (await manager.ask<StatementsJob>('GET', `/accounts/statements/${job.id}`)).body;
      seen.add(job.progress);
    }
    if (job.state !== 'done' || job.count < ACCOUNTS) throw new Error(`not made: ${JSON.stringify(job)}`);
  });
  delay.disable();
  if (seen.size < 3) throw new Error('no progress was said');
  return [
    figure(`statements-1000 ${engine}`, 's', made / 1000, bare / 1000, 1),
    figure(
      `statements-1000 ${engine} longest block`,
      'ms',
      delay.max / 1e6,
      delay.percentile(50) / 1e6,
      delay.count,
      { words: 'under 50 ms', met: (value) => value < 50 },
    ),
  ];
}

/** Customers with an account each, and charges on it over the last months. */
async function fill(database: Database): Promise<void> {
  await database.write(async (sql) => {
    await sql.query(
      `with made as (
         insert into customer (name, phone, mail, words, sort_name, added_at)
         select 'Made-up Person ' || nth, 'x', 'p' || nth || '@bench.example', ' made-up', 'made-up', now()
         from generate_series(1, ${ACCOUNTS}) as nth returning id
       ), opened as (
         insert into account (customer_id, credit_limit, days_to_pay, balance, opened_at, opened_by)
         select id, 100000, 30, ${CHARGES} * 1500, now(), (select min(id) from staff) from made returning id
       )
       insert into account_item (account_id, kind, amount, remaining, day, due_on, at)
       select id, 'charge', 1500, 1500, current_date - nth * 7, current_date - nth * 7 + 30, now()
       from opened, generate_series(1, ${CHARGES}) as nth`,
    );
    await sql.query('analyze account_item');
  });
}
