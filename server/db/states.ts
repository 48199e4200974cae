import { holdsMoney, isOpen, TENDER_EVENTS, TENDER_STATES, tenderStep } from '../../core/payment/tender.ts';
import { FIGURE_KINDS } from '../../core/figures/figureKinds.ts';
import { STOCK_REASONS } from '../../core/goods/stockReasons.ts';
import { PRINT_KINDS } from '../../core/journal/paper.ts';
import { LEDGER_EVENTS } from '../../core/books/accounts.ts';
import { TRANSFERS } from '../../core/books/entries.ts';
import { ACCOUNT_ITEM_KINDS } from '../../core/people/accountItemKinds.ts';
import { STORED_VALUE_NAMES, STORED_VALUE_REASONS } from '../../core/giftCards/storedValue.ts';
import { TENDER_KINDS } from '../../core/payment/tenderKinds.ts';
import { POINTS_REASONS } from '../../core/people/pointsReasons.ts';
import { PROMISE_KINDS } from '../../core/promises/promiseNumber.ts';
import type { Database, Writer } from './database.ts';

/** Kinds that SQL knows by their names only; none is taken away that may stand in what was stored. */
const KINDS = {
  print_job_kind: PRINT_KINDS,
  ledger_event_kind: LEDGER_EVENTS,
  promise_kind: Object.keys(PROMISE_KINDS),
  stock_reason: STOCK_REASONS,
  points_reason: POINTS_REASONS,
  account_item_kind: ACCOUNT_ITEM_KINDS,
  figure_kind: Object.keys(FIGURE_KINDS),
  stored_value_kind: Object.keys(STORED_VALUE_NAMES),
  stored_value_reason: STORED_VALUE_REASONS,
} as const;

async function layKinds(sql: Writer): Promise<void> {
  for (const [table, names] of Object.entries(KINDS))
    await sql.query(`insert into ${table} (name) select unnest($1::text[]) on conflict do nothing`, [names]);
}

/**
 * Lays kinds, the accounts of transfers, the states of payments, and which may follow which, down from core: SQL knows
 * no others.
 */
export async function layStates(database: Database): Promise<void> {
  const steps = TENDER_STATES.flatMap((from) =>
    TENDER_EVENTS.flatMap((event) => {
      const to = tenderStep(from, event);
      return to ? [{ from, event, to }] : [];
    }),
  );
  await database.write(async (sql) => {
    await layKinds(sql);
    await sql.query(
      `insert into tender_kind (name, in_drawer)
       select name, "inDrawer" from jsonb_to_recordset($1) as kind (name text, "inDrawer" boolean)
       on conflict (name) do update set in_drawer = excluded.in_drawer
       where tender_kind.in_drawer <> excluded.in_drawer`,
      [JSON.stringify(Object.entries(TENDER_KINDS).map(([name, { inDrawer }]) => ({ name, inDrawer })))],
    );
    await sql.query(
      `insert into tender_state (name, open, holds)
       select name, open, holds from jsonb_to_recordset($1) as state (name text, open boolean, holds boolean)
       on conflict (name) do update set open = excluded.open, holds = excluded.holds
       where (tender_state.open, tender_state.holds) <> (excluded.open, excluded.holds)`,
      [JSON.stringify(TENDER_STATES.map((name) => ({ name, open: isOpen(name), holds: holdsMoney(name) })))],
    );
    await sql.query(
      `insert into ledger_transfer (kind, debit, credit)
       select kind, debit, credit from jsonb_to_recordset($1) as transfer (kind text, debit text, credit text)
       on conflict (kind) do update set debit = excluded.debit, credit = excluded.credit
       where (ledger_transfer.debit, ledger_transfer.credit) <> (excluded.debit, excluded.credit)`,
      [JSON.stringify(Object.entries(TRANSFERS).map(([kind, accounts]) => ({ kind, ...accounts })))],
    );
    const laid = JSON.stringify(steps);
    await sql.query(
      `delete from tender_step where (from_state, event, to_state) not in
         (select "from", event, "to" from jsonb_to_recordset($1) as step ("from" text, event text, "to" text))`,
      [laid],
    );
    await sql.query(
      `insert into tender_step (from_state, event, to_state)
       select "from", event, "to" from jsonb_to_recordset($1) as step ("from" text, event text, "to" text)
       on conflict do nothing`,
      [laid],
    );
  });
}
