import { v4 as newId } from 'uuid';
import { browserOf, openDrawer, type Browser } from '../server/testing/browser.ts';
import type { Serving } from '../server/serve.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, quantile, timed, type Figure } from './measure.ts';

const ROUNDS = 400;
const CONNECTIONS = 10;
/**
 * What they send: long lists, deep nests, large bodies, wrong kinds, to routes that need somebody and to those that
 * do not.
 */
const HOSTILE: readonly (readonly [address: string, body: string])[] = [
  [
    '/counter/sales',
    JSON.stringify({ basket: { id: newId(), lines: Array.from({ length: 50_000 }, () => 1) } }),
  ],
  [
    '/counter/sales',
    JSON.stringify({ basket: { id: newId(), lines: Array.from({ length: 500 }, () => 1) } }),
  ],
  ['/setup/shop', JSON.stringify({ taxes: Array.from({ length: 50_000 }, () => 1) })],
  ['/staff/session', JSON.stringify({ pin: Array.from({ length: 50_000 }, () => 1) })],
  ['/payment/tenders', `${'['.repeat(20_000)}${']'.repeat(20_000)}`],
  [
    '/drawer/closings',
    JSON.stringify({ pieces: Object.fromEntries(Array.from({ length: 5_000 }, (_, at) => [at, 1])) }),
  ],
];

/**
 * A till's scan (its basket is stored and answered) while ten connections send hostile bodies, against the same
 * alone.
 */
export const underAttack = (): Promise<Figure[]> => onBothEngines(measure);

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const till = browserOf(() => serving.url);
  await till.signIn('1357', 1);
  await openDrawer(till);
  const [item] = await serving.house.database.ask((sql) =>
    sql.query<{ id: number; tax: number; price: number }>(
      "select id, tax_category_id as tax, price from item where number = 'LES-30'",
    ),
  );
  if (!item) throw new Error('the lesson is not in the shop');
  let revision = 0;
  const basket = {
    id: newId(),
    lines: Array.from({ length: 10 }, (_, at) => ({
      id: newId(),
      itemId: item.id,
      number: 'LES-30',
      name: `Lesson ${at}`,
      unit: 'each',
      decimals: 0,
      taxCategoryId: item.tax,
      quantity: 1000,
      listPrice: item.price,
    })),
  };
  const scan = async () => {
    const { status, body } = await till.ask<{ revision: number }>('PUT', '/counter/basket', {
      basket,
      revision,
    });
    if (status !== 200) throw new Error(`a scan was refused: ${JSON.stringify(body)}`);
    revision = body.revision;
  };
  const times = async () => {
    const samples: number[] = [];
    for (let round = 0; round < ROUNDS; round++) samples.push(await timed(scan));
    return samples;
  };
  await times();
  const alone = await times();
  const other = browserOf(() => serving.url);
  await other.signIn('2468', 2);
  const attack = startAttack(serving, other);
  const attacked = await times();
  const requests = await attack.stop();
  const goal = { words: 'at most 2 × alone', met: (_value: number, ratio: number) => ratio <= 2 };
  return [
    figure(`under-attack ${engine} p50`, 'ms', quantile(attacked, 0.5), quantile(alone, 0.5), ROUNDS, goal),
    figure(`under-attack ${engine} p95`, 'ms', quantile(attacked, 0.95), quantile(alone, 0.95), ROUNDS, goal),
    figure(`under-attack ${engine} sent`, 'requests', requests, CONNECTIONS, requests),
  ];
}

/** Half of the connections are somebody who is signed in at another till, half are nobody. */
function startAttack(serving: Serving, somebody: Browser): { stop(): Promise<number> } {
  let going = true;
  let sent = 0;
  const nobody = browserOf(() => serving.url);
  const workers = Array.from({ length: CONNECTIONS }, async (_, at) => {
    const browser = at % 2 === 0 ? somebody : nobody;
    for (let round = at; going; round++) {
      const [address, body] = HOSTILE[round % HOSTILE.length] ?? ['/', ''];
      const { status } = await browser.raw(
        'POST',
        address,
        { 'content-type': 'application/json', 'idempotency-key': newId() },
        body,
      );
      if (status < 400 || status >= 500) throw new Error(`${address} answered ${status}`);
      sent += 1;
    }
  });
  return {
    async stop() {
      going = false;
      await Promise.all(workers);
      return sent;
    },
  };
}
