import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../../contract/testing/eventually.ts';
import type { CardPage } from '../../../contract/cardPayments.ts';
import type { PaymentView } from '../../../contract/payment.ts';
import type { TillFacts } from '../../../contract/setup.ts';
import type { Catalogue } from '../../../contract/goods.ts';
import { openDatabase } from '../../db/open.ts';
import { verify } from '../../books/verify.ts';
import { readSettings } from '../../settings.ts';
import type { Browser } from '../browser.ts';
import { bringBack } from '../returning.ts';
import { openTills } from './sellers.ts';
import { startServer } from './sellingServer.ts';

/** So many kills; more with MONDREL_KILLS (`npm run faults -- 200`). */
const KILLS = Number(process.env.MONDREL_KILLS ?? 12);
/** The kill comes after so many more requests, a different number each time. */
const requestsBefore = (round: number) => 3 + ((round * 5) % 31);
const SERIAL = 'T-1001';

let folder = '';
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'mondrel-payments-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/**
 * Rings up one sale after the other, split over a gift card, a terminal and cash, takes some of them back the way
 * they were paid and voids others, until the server is gone.
 */
async function payUntilGone(browser: Browser, manager: Browser, asked: () => void): Promise<void> {
  const asking =
    (by: Browser): Browser['ask'] =>
    (...request) => {
      asked();
      return by.ask(...request);
    };
  const ask = asking(browser);
  const { body: catalogue } = await ask<Catalogue>('GET', '/goods/catalogue');
  const { body: facts } = await ask<TillFacts>('GET', '/setup/till');
  const typeOf = (kind: string) => facts.payment.types.find((type) => type.kind === kind)?.id ?? 0;
  const untaxed = catalogue.items.filter(
    ([, , , category, price]) => category === 'Lessons' && price !== null,
  );
  for (let at = 0; ; at++) {
    const [itemId = 0, number = '', name = '', , price, , , taxCategoryId = 0] =
      untaxed[at % untaxed.length] ?? [];
    const total = price ?? 0;
    const line = {
      id: newKey(),
      itemId,
      number,
      name,
      unit: 'each',
      decimals: 0,
      taxCategoryId,
      quantity: 1000,
      listPrice: total,
    };
    const basket = { id: newKey(), lines: [line] };
    const pay = (kind: string, amount: number, more = {}) => {
      const id = newKey();
      const tender = { id, basket, expectedTotal: total, typeId: typeOf(kind), amount, ...more };
      return ask<PaymentView>('POST', '/payment/tenders', tender, { 'idempotency-key': id });
    };
    await pay('stored-value', 1, { number: '44100771409' });
    const half = Math.floor(total / 2);
    const terminalId = facts.payment.terminals[0]?.id;
    const { body } = await pay('card', half, { terminalId });
    if (body.tenders.at(-1)?.state === 'asked') {
      await ask('POST', `/devices/terminals/${SERIAL}`, { press: 'round-up', yes: false });
      await ask('POST', `/devices/terminals/${SERIAL}`, { press: 'card', entry: 'tap', cardId: 'lantern' });
      if (at % 3 === 2) await ask('POST', `/payment/tenders/${body.tenders.at(-1)?.id}/undo`);
    }
    await ask(
      'POST',
      '/counter/sales',
      { basket, expectedTotal: total, handed: total },
      { 'idempotency-key': basket.id },
    );
    if (at % 3 === 0)
      await bringBack({ ...manager, ask: asking(manager) }, basket.id, [{ position: 1, quantity: 1000 }]);
    else if (at % 3 === 1)
      await asking(manager)('POST', `/journal/sales/${basket.id}/void`, { reason: 'Killed' });
  }
}

describe('a server that is killed while payments are taken', () => {
  it(
    `knows of all money after each of ${KILLS} kills, and of no more`,
    async () => {
      for (let round = 0; round < KILLS; round++) {
        const server = await startServer(folder);
        const [till] = await openTills(server.browser);
        if (!till) throw new Error('there is no till');
        let requests = 0;
        const manager = server.browser();
        await manager.signIn('8024', 1);
        const payments = payUntilGone(till, manager, () => {
          requests += 1;
          if (requests > requestsBefore(round)) void server.kill();
        });
        // The server is killed under a request.
        await payments.catch(() => {});
        await server.kill();
      }
      // Once more, to let what was in the air come down.
      const server = await startServer(folder);
      const [till] = await openTills(server.browser);
      const stopped = await till?.ask('POST', `/devices/terminals/${SERIAL}`, {
        press: 'stop',
      });
      expect(stopped?.status).toBe(200);
      const supervisor = server.browser();
      await supervisor.signIn('3690', 1);
      const pending = async (state: string) =>
        (await supervisor.ask<CardPage>('GET', `/card-payments/payments?state=${state}`)).body.count;
      await eventually(async () => {
        for (const state of ['stored', 'asked', 'undoing']) expect(await pending(state)).toBe(0);
      });
      await server.kill();

      const database = await openDatabase(
        readSettings({ MONDREL_DATA: folder }),
        () => {},
        () => {},
        null,
      );
      const known = await database.ask((sql) =>
        sql.query<{ id: string; state: string }>(
          'select id, state from payment_tender where terminal_id is not null',
        ),
      );
      // Money went back, too, and sales were voided.
      const [after] = await database.ask((sql) =>
        sql.query<{ returns: number; voids: number }>(
          `select (select count(*) from sale where kind = 'return')::integer as returns,
                (select count(*) from sale_void)::integer as voids`,
        ),
      );
      expect(after?.returns).toBeGreaterThan(0);
      expect(after?.voids).toBeGreaterThan(0);
      const terminal = JSON.parse(readFileSync(join(folder, 'terminals', `${SERIAL}.json`), 'utf8')) as {
        answers: { reference: string; state: string }[];
      };
      const atBank = terminal.answers
        .filter(({ state }) => state === 'approved')
        .map(({ reference }) => reference);
      expect(atBank.length).toBeGreaterThan(0);
      expect(
        known
          .filter(({ state }) => state === 'approved')
          .map(({ id }) => id)
          .sort(),
      ).toEqual(atBank.sort());
      expect(known.filter(({ state }) => ['stored', 'asked', 'undoing'].includes(state))).toEqual([]);
      expect(await database.ask(verify)).toEqual([]);
      await database.close();
    },
    300_000 + KILLS * 60_000,
  );
});
