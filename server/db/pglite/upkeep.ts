import type { Reader } from '../database.ts';

const ROUND_EVERY_MS = 60_000;

export interface Upkeep {
  stop(): void;
  /** Does something during which the log must not be cut. */
  pausedFor<T>(work: () => Promise<T>): Promise<T>;
}

const setting = (name: string) => `current_setting('autovacuum_${name}')::float8`;
const above = (what: string) => `${setting(`${what}_threshold`)} + ${setting(`${what}_scale_factor`)} * rows`;
const grown = (what: string, pages: string) => `pages > (1 + ${setting(`${what}_scale_factor`)}) * ${pages}`;

/**
 * The tables of which so much has changed that they are to be cleared up, or counted anew for the planner: the rule
 * of PostgreSQL's own background workers, by its own settings. See its documentation, "Routine Vacuuming". What they
 * count of changes begins anew at each start here, so that what has grown is told by its size, too. An empty table is
 * never counted: what is planned for one without rows reads all of it, and keeps that plan while it grows.
 */
const DUE = `
  select format('%I.%I', schemaname, stat.relname) as name,
    ${grown('vacuum', 'relallvisible')} or n_dead_tup > ${above('vacuum')}
      or n_ins_since_vacuum > ${above('vacuum_insert')} or age(relfrozenxid) > ${setting('freeze_max_age')} as "toClear",
    schemaname = 'public' and pages > 0
      and (${grown('analyze', 'relpages')} or n_mod_since_analyze > ${above('analyze')}) as "toCount"
  from pg_stat_all_tables as stat join pg_class on pg_class.oid = relid
  cross join lateral (select greatest(reltuples, 0) as rows,
    pg_relation_size(relid) / current_setting('block_size')::integer as pages) as size
  where schemaname <> 'pg_toast' order by name`;

interface Due {
  name: string;
  toClear: boolean;
  toCount: boolean;
}

/** One table after the other, so that whoever sells waits for one of them at most. */
export async function keepUp(database: Reader): Promise<void> {
  for (const { name, toClear, toCount } of await database.query<Due>(DUE)) {
    if (toClear) await database.query(`vacuum ${toCount ? '(analyze) ' : ''}${name}`);
    else if (toCount) await database.query(`analyze ${name}`);
  }
}

/**
 * The embedded database has no background work: without this its log grows without end and its statistics age.
 * @param writes how many transactions have been written so far; nothing happens while that stands still
 */
export function startUpkeep(database: Reader, writes: () => number): Upkeep {
  let seen = writes();
  let pauses = 0;
  /** The round that is under way. */
  let round: Promise<void> = Promise.resolve();
  const timer = setInterval(() => {
    const now = writes();
    if (now === seen || pauses > 0) return;
    seen = now;
    round = (async () => {
      await keepUp(database);
      await database.query('checkpoint');
    })().catch(() => {
      // A failed upkeep is tried again next time; a failing disk is reported by the folder itself.
    });
  }, ROUND_EVERY_MS);
  timer.unref();
  return {
    stop: () => clearInterval(timer),
    async pausedFor(work) {
      pauses += 1;
      try {
        await round;
        return await work();
      } finally {
        pauses -= 1;
      }
    },
  };
}
