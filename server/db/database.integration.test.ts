import { execFileSync } from 'node:child_process';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { receiptNumber } from '../../core/journal/receiptNumber.ts';
import { ENGINE, openHouse, type TestHouse } from '../testing/testHouse.ts';
import { NestedUseError, one, RAISED, sqlState, type Reader } from './database.ts';
import { migrate, NewerDataError } from './migrate.ts';

let test: TestHouse;
beforeAll(async () => {
  test = await openHouse();
});
afterAll(() => test.stop());

const stateOf = async (work: Promise<unknown>) =>
  sqlState(
    await work.then(
      () => 'nothing was thrown',
      (error: unknown) => error,
    ),
  );

describe(`the database on ${ENGINE}`, () => {
  it('gives the same types on both engines', async () => {
    const [row] = await test.house.database.ask((sql) =>
      sql.query(
        `select 9007199254740991::bigint as big, 1.50::numeric as exact, date '2026-03-02' as day,
                timestamptz '2026-03-02 15:00:00.123456+00' as at, '{"a": [1]}'::jsonb as json, array['x'] as list,
                true as yes, null as nothing`,
      ),
    );
    expect(row).toEqual({
      big: Number.MAX_SAFE_INTEGER,
      exact: '1.50',
      day: '2026-03-02',
      at: '2026-03-02 15:00:00.123456+00',
      json: { a: [1] },
      list: ['x'],
      yes: true,
      nothing: null,
    });
    await expect(
      test.house.database.ask((sql) => sql.query('select 9007199254740992::bigint')),
    ).rejects.toThrow();
  });

  it('undoes a transaction that fails, and goes on', async () => {
    const { database } = test.house;
    const failing = database.write(async (sql) => {
      await sql.query("insert into place (name, kind) values ('Attic', 'stock')");
      throw new Error('changed my mind');
    });
    await expect(failing).rejects.toThrow('changed my mind');
    expect(await database.ask((sql) => sql.query("select 1 from place where name = 'Attic'"))).toEqual([]);
  });

  it('undoes everything when an error inside a transaction was caught', async () => {
    const { database } = test.house;
    const caught = database.write(async (sql) => {
      await sql.query("insert into place (name, kind) values ('Attic', 'stock')");
      await sql.query('select 1/0').catch(() => {});
    });
    await caught.catch(() => {});
    expect(await database.ask((sql) => sql.query("select 1 from place where name = 'Attic'"))).toEqual([]);
  });

  it('plans what is looked for anew, and keeps the plans of all else', async () => {
    const { database } = test.house;
    const mode = async (sql: Reader, how: 'query' | 'search') =>
      one(await sql[how]<{ mode: string }>("select current_setting('plan_cache_mode') as mode")).mode;
    const modes = async (sql: Reader) => {
      expect(await mode(sql, 'search')).toBe('force_custom_plan');
      expect(await mode(sql, 'query')).toBe('force_generic_plan');
    };
    await database.ask(modes);
    await database.write(modes);
    const failing = (sql: Reader) => sql.search('select 1 / $1::integer as part', [0]);
    expect(await stateOf(database.ask(failing))).toBe('22012');
    expect(await stateOf(database.write(failing))).toBe('22012');
    await database.ask(modes);
  });

  it('refuses to be asked inside its own transaction', async () => {
    const { database } = test.house;
    const nested = database.write(() => database.ask((sql) => sql.query('select 1')));
    await expect(nested).rejects.toBeInstanceOf(NestedUseError);
    await expect(database.write(() => database.write(async () => 1))).rejects.toBeInstanceOf(NestedUseError);
  });

  it('refuses an event that does not balance, when it is stored', async () => {
    const event = {
      kind: 'sale',
      at: '2026-03-02T15:00:00Z',
      staffId: 1,
      tillId: 1,
      entries: [{ account: 'cash', subject: 'till:1', amount: 5 }],
    };
    const posting = test.house.database.write((sql) =>
      sql.query('select post_event($1)', [JSON.stringify(event)]),
    );
    expect(await stateOf(posting)).toBe(RAISED.unbalanced);
  });

  it.each(['sale', 'sale_line', 'sale_tax', 'tender', 'ledger_event', 'ledger_entry', 'stock_move', 'audit'])(
    'refuses to change the history in %s',
    async (table) => {
      const { database } = test.house;
      expect(await stateOf(database.ask((sql) => sql.query(`delete from ${table}`)))).toBe(RAISED.history);
      expect(await stateOf(database.ask((sql) => sql.query(`truncate ${table} cascade`)))).toBe(
        RAISED.history,
      );
    },
  );

  it.each([
    [
      'outbox',
      "(kind, recipient, subject, asked_at, WHAT) values ('mail', 'a@example.test', 'About it', now(), IDS)",
    ],
    ['print_job', "(till_id, kind, asked_at, WHAT) values (1, 'receipt', now(), IDS)"],
  ])(
    'keeps what each row of %s is about to one thing, also where it can be about more',
    async (table, row) => {
      const { database } = test.house;
      const add = (sql: Reader, columns: Record<string, string>) =>
        sql.query(
          `insert into ${table} ${row}`
            .replace('WHAT', Object.keys(columns).join(', '))
            .replace('IDS', Object.values(columns).join(', ')),
        );
      // Whether there is such a one is looked at after this.
      const sale = 'gen_random_uuid()';
      const shift = '1';
      const refused = '23514';
      expect(await stateOf(database.ask((sql) => add(sql, { sale_id: 'null' })))).toBe(refused);
      expect(await stateOf(database.ask((sql) => add(sql, { sale_id: sale, shift_id: shift })))).toBe(
        refused,
      );
      const later = (columns: Record<string, string>) =>
        database.write(async (sql) => {
          await sql.query(`alter table ${table} add column later_id integer`);
          await add(sql, columns);
          throw new Error('is not kept');
        });
      await expect(later({ later_id: '1' })).rejects.toThrow('is not kept');
      expect(await stateOf(later({ later_id: '1', shift_id: shift }))).toBe(refused);
    },
  );

  it('runs no migration twice, and none on data of a newer version', async () => {
    const { database } = test.house;
    const ran: string[] = [];
    await migrate(database, (name) => ran.push(name));
    expect(ran).toEqual([]);
    await database.ask((sql) => sql.query("insert into migration (number, name) values (9999, 'later')"));
    await expect(migrate(database)).rejects.toBeInstanceOf(NewerDataError);
    await database.ask((sql) => sql.query('delete from migration where number = 9999'));
  });

  it('numbers receipts as the till does, also after ten thousand sales', async () => {
    const { database } = test.house;
    for (const count of [1, 42, 9999, 10_000, 1_234_567]) {
      const [row] = await database.ask((sql) =>
        sql.query<{ number: string }>('select receipt_number(2, $1::integer) as number', [count]),
      );
      expect(row?.number).toBe(receiptNumber(2, count));
    }
  });

  it('lets no second process at the same data', async () => {
    const script = `import('./server/testing/secondProcess.ts').then(({ tryToOpen }) => tryToOpen())`;
    const said = execFileSync(process.execPath, ['--import', 'tsx', '-e', script], {
      env: {
        ...process.env,
        MONDREL_DATA: test.dataFolder,
        ...(test.databaseUrl ? { DATABASE_URL: test.databaseUrl } : {}),
      },
      encoding: 'utf8',
    });
    expect(said).toContain('Another Mondrel is running on');
  });
});
