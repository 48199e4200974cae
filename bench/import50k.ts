import { monitorEventLoopDelay } from 'node:perf_hooks';
import { setTimeout as wait } from 'node:timers/promises';
import { stringify } from 'csv-stringify/sync';
import { v4 as newId } from 'uuid';
import type { ImportView } from '../contract/imports.ts';
import type { DirectoryPage } from '../contract/people.ts';
import type { Serving } from '../server/serve.ts';
import { browserOf } from '../server/testing/browser.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, timed, type Figure } from './measure.ts';

const ROWS = 50_000;
const LOOK_MS = 100;

/**
 * A list of 50,000 new customers: looked through and written, while the server's thread is watched. The floor is
 * plain SQL that inserts the same customers, a thousand at a time.
 */
export const import50k = (): Promise<Figure[]> => onBothEngines(measure);

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const { database } = serving.house;
  const manager = browserOf(() => serving.url);
  await manager.signIn('8024', 1);
  const people = Array.from({ length: ROWS }, (_, at) => ({
    name: `Made-up Person ${at}`,
    phone: `8${String(at).padStart(6, '0')}`,
    mail: `person${at}@bench.example`,
  }));
  const bare = await timed(() =>
    database.write(async (sql) => {
      for (let at = 0; at < ROWS; at += 1000) {
        await sql.query(
          `insert into customer (name, phone, mail, words, sort_name, added_at)
           select 'bare ' || name, 'x', 'x', ' bare', 'bare', now()
           from jsonb_to_recordset($1) as one (name text)`,
          [JSON.stringify(people.slice(at, at + 1000))],
        );
      }
    }),
  );
  await database.write((sql) => sql.query(`delete from customer where words = ' bare'`));

  const content = stringify([
    ['Name', 'Phone', 'Mail', 'Tags'],
    ...people.map(({ name, phone, mail }) => [name, phone, mail, 'bench']),
  ]);
  const id = newId();
  const until = async (state: ImportView['state']) => {
    for (;;) {
      const { body } = await manager.ask<ImportView>('GET', `/people/imports/${id}`);
      if (body.state === state) return body;
      await wait(LOOK_MS);
    }
  };
  const delay = monitorEventLoopDelay({ resolution: 1 });
  const path = `/people/imports/${id}?name=bench.csv`;
  const looked = await timed(async () => {
    await manager.raw('PUT', path, { 'content-type': 'text/csv' }, content);
    delay.enable();
    const { counts } = await until('ready');
    if (counts.new !== ROWS) throw new Error(`not all are new: ${JSON.stringify(counts)}`);
  });
  const written = await timed(async () => {
    await manager.ask('POST', `/people/imports/${id}/accept`, { doubles: false });
    await until('done');
  });
  delay.disable();
  const { count } = (await manager.ask<DirectoryPage>('GET', '/people/directory?tag=bench')).body;
  if (count !== ROWS) throw new Error(`${count} came in`);
  const seconds = (looked + written) / 1000;
  return [
    figure(`import-50k ${engine}`, 's', seconds, bare / 1000, 1, {
      words: 'under 60 s',
      met: (value) => value < 60,
    }),
    figure(`import-50k ${engine} looked through`, 's', looked / 1000, bare / 1000, 1),
    figure(`import-50k ${engine} rows`, 'rows/s', ROWS / seconds, ROWS / (bare / 1000), 1),
    figure(
      `import-50k ${engine} longest block`,
      'ms',
      delay.max / 1e6,
      delay.percentile(50) / 1e6,
      delay.count,
      {
        words: 'under 50 ms',
        met: (value) => value < 50,
      },
    ),
  ];
}
