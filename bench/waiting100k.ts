import type { PromisePage } from '../contract/promises.ts';
import type { Database } from '../server/db/database.ts';
import { browserOf } from '../server/testing/browser.ts';
import type { Serving } from '../server/serve.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, inTurn, quantile, type Figure } from './measure.ts';

const PROMISES = 100_000;
const ROUNDS = 40;
const MADE_UP = [
  'kestrel',
  'linden',
  'marlow',
  'nettle',
  'orchard',
  'pewter',
  'quarry',
  'rowan',
  'sorrel',
  'tansy',
];

/**
 * The list of what waits today, and a search in it, through HTTP among 100,000 promises; the floor is plain
 * SQL that reads the same rows and counts.
 */
export const waiting100k = (): Promise<Figure[]> => onBothEngines(measure);

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const { database } = serving.house;
  await fill(database);
  const browser = browserOf(() => serving.url);
  await browser.signIn('1357', 1);
  const today = new Date().toISOString().slice(0, 10);
  const figures: Figure[] = [];
  for (const [what, find] of [
    ['list', ''],
    ['search', 'kestrel row'],
  ] as const) {
    const words = find.split(' ').filter(Boolean);
    const [through, bare] = await inTurn(
      ROUNDS,
      async () => {
        const address = `/waiting/promises?find=${encodeURIComponent(find)}`;
        const { status, body } = await browser.ask<PromisePage>('GET', address);
        if (status !== 200 || body.rows.length === 0) throw new Error('nothing waits');
      },
      () => bareList(database, words, today),
    );
    figures.push(
      figure(
        `waiting-100k ${what} ${engine}`,
        'ms p95',
        quantile(through, 0.95),
        quantile(bare, 0.95),
        ROUNDS,
        {
          words: 'at most 1.5 times the floor',
          met: (_value, ratio) => ratio <= 1.5,
        },
      ),
    );
  }
  return figures;
}

/** The rows of a page with their customer and plan, how many there are, and how many are late. */
async function bareList(database: Database, words: readonly string[], today: string): Promise<void> {
  const like = words.map((word) => `% ${word}%`);
  await database.ask(async (sql) => {
    await sql.query(
      `select promise.*, customer.name, (select json_agg(part) from promise_part as part
        where promise_id = promise.id) as plan,
              (select string_agg(name, ', ') from promise_line where promise_id = promise.id) as goods
       from (select id from promise where cancelled_at is null and handed < units and words like all ($1::text[])
             order by next_due < $2::date desc, next_due limit 50) as listed
       join promise using (id) join customer on customer.id = customer_id order by next_due < $2::date desc, next_due`,
      [like, today],
    );
    await sql.query(
      `select count(*)::integer as count, count(*) filter (where next_due < $2::date)::integer as late
       from promise where cancelled_at is null and handed < units and words like all ($1::text[])`,
      [like, today],
    );
  });
}

/** Layaways of a hundred thousand: nine of ten are over, as they are in a shop after years. */
async function fill(database: Database): Promise<void> {
  const words = `(array['${MADE_UP.join("','")}'])`;
  await database.write(async (sql) => {
    await sql.query(
      `insert into promise (id, kind, number, customer_id, place_id, till_id, staff_id, made_at, tax_mode, total,
         units, handed, rest, held, paid, next_due, words)
       select gen_random_uuid(), 'layaway', n, 1 + n % 20, 1, 1, 1, now() - n * interval '13 minutes',
              'on-top', 10000, 1000, case when n % 10 = 0 then 0 else 1000 end, case when n % 10 = 0 then 10000
                else 0 end, case when n % 10 = 0 then 2000 else 0 end, 2000,
              case when n % 10 = 0 then current_date + (n % 60 - 5) end,
              ' l-' || n || ' ' || n || ' ' || ${words}[1 + n % 10] || ' ' || ${words}[1 + n / 10 % 10]
       from generate_series(1, ${PROMISES}) as n`,
    );
    await sql.query(
      `insert into promise_part (promise_id, position, day, amount)
       select id, 1, made_at::date, 2000 from promise union all
       select id, 2, coalesce(next_due, made_at::date + 30), 8000 from promise`,
    );
    await sql.query(
      `insert into promise_line (promise_id, position, item_id, number, name, unit, decimals, tax_category_id, quantity,
         unit_price, regular, net, tax, stocked, handed, place_id)
       select promise.id, 1, item.id, item.number, item.name, 'each', 0, 1, 1000, 10000, 10000, 10000, 0, false, handed,
         promise.place_id
       from promise join item on item.number = 'LES-30'`,
    );
    // As both engines do by themselves after so many rows.
    await sql.query('analyze');
  });
}
