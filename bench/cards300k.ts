import type { CardPage } from '../contract/cardPayments.ts';
import type { Database } from '../server/db/database.ts';
import { browserOf } from '../server/testing/browser.ts';
import type { Serving } from '../server/serve.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, inTurn, median, type Figure } from './measure.ts';

const PAYMENTS = 300_000;
const AT_ONCE = 25_000;
const ROUNDS = 12;
/** Of so many payments one was not settled. */
const OPEN_ONE_OF = 3_000;

/**
 * The list of card payments, narrowed down and not, and what terminals have not settled, through HTTP among 300,000;
 * the floor reads the newest hundred in plain SQL.
 */
export const cards300k = (): Promise<Figure[]> => onBothEngines(measure);

const QUESTIONS: Readonly<Record<string, (round: number) => string>> = {
  newest: () => 'payments',
  'last four': (round) => `payments?find=${String(1000 + Math.abs(round) * 37).slice(-4)}`,
  approval: (round) => `payments?find=A${100_000 + Math.abs(round) * 977}`,
  'one day': (round) =>
    `payments?from=2025-03-${String(1 + (Math.abs(round) % 9)).padStart(2, '0')}&to=2025-03-${String(1 + (Math.abs(round) % 9)).padStart(2, '0')}`,
  declined: () => 'payments?state=declined',
  terminals: () => 'terminals',
};

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const { database } = serving.house;
  await fill(database);
  const browser = browserOf(() => serving.url);
  await browser.signIn('8024', 3);
  const figures: Figure[] = [];
  for (const [what, addressOf] of Object.entries(QUESTIONS)) {
    const [through, bare] = await inTurn(
      ROUNDS,
      async (round) => {
        const { status, body } = await browser.ask<CardPage>('GET', `/card-payments/${addressOf(round)}`);
        if (status !== 200 || body.rows?.length === 0) throw new Error(`nothing is found: ${what}`);
      },
      () => newest(database),
    );
    figures.push(figure(`cards-300k ${what} ${engine}`, 'ms median', median(through), median(bare), ROUNDS));
  }
  return figures;
}

async function newest(database: Database): Promise<void> {
  await database.ask((sql) =>
    sql.query('select * from payment_tender where terminal_id is not null order by at desc limit 100'),
  );
}

/** Lays down two years of card payments, checks of keys left out. */
async function fill(database: Database): Promise<void> {
  for (let from = 0; from < PAYMENTS; from += AT_ONCE) {
    await database.write(async (sql) => {
      await sql.query('set local session_replication_role = replica');
      await sql.query(
        `insert into payment (basket_id, till_id, staff_id, basket, due, state, began_at)
         select md5('basket ' || at)::uuid, 1 + at % 2, 1 + at % 3, '{}', 500 + at % 9000, 'finished',
           timestamptz '2024-01-02 14:00Z' + at * interval '3 minutes'
         from generate_series($1::integer, $2::integer) as at`,
        [from, from + AT_ONCE - 1],
      );
      await sql.query(
        `insert into payment_tender (id, basket_id, position, type_id, state, amount, asked, handed, terminal_id,
          brand, last_four, card_kind, entry, approval, staff_id, at, changed_at)
         select md5('card ' || nth)::uuid, md5('basket ' || nth)::uuid, 1,
           (select id from tender_type where kind = 'card' limit 1),
           case when nth % 500 = 0 then 'declined' else 'approved' end, 500 + nth % 9000, 500 + nth % 9000,
           500 + nth % 9000, (select min(id) from terminal), 'Brand', right((1000 + nth % 9000)::text, 4), 'credit',
           'tap', 'A' || (100000 + nth), 1 + nth % 3, made.at, made.at
         from generate_series($1::integer, $2::integer) as nth
           cross join lateral (select timestamptz '2024-01-02 14:00Z' + nth * interval '3 minutes' as at) as made`,
        [from, from + AT_ONCE - 1],
      );
    });
  }
  await database.write(async (sql) => {
    await sql.query('set local session_replication_role = replica');
    await sql.query(
      `insert into settlement (terminal_id, batch, at, gross, fees, count, staff_id)
       values ((select min(id) from terminal), 'B1', now(), 0, 0, 0, 1)`,
    );
    await sql.query(
      `insert into settlement_entry (settlement_id, reference, tender_id, amount, fee)
       select (select max(id) from settlement), md5('card ' || at)::uuid, md5('card ' || at)::uuid, 500, 1
       from generate_series(0, $1::integer - 1) as at where at % ${OPEN_ONE_OF} <> 1`,
      [PAYMENTS],
    );
  });
  await database.script('analyze payment; analyze payment_tender; analyze settlement_entry;');
}
