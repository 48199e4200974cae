import { Router } from 'express';
import { partnerSchema, settleMonthSchema, type PartnerSettings } from '../../contract/relay.ts';
import { partnerSettlementEntries } from '../../core/books/entries.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { csv } from '../csv.ts';
import type { Reader } from '../db/database.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { idempotencyKey } from '../http/write.ts';
import { postEvent } from '../books/store.ts';
import { owedIn, partnerMonths, settleMonth } from '../promises/partnerMonthStore.ts';
import * as relays from '../promises/relayStore.ts';
import { change } from '../shop/changes.ts';
import { readShop } from '../shop/store.ts';

/** @throws Problem 422 where a code is another partner's */
async function checkCode(sql: Reader, { code }: PartnerSettings, except: number): Promise<void> {
  const other = (await relays.listPartners(sql)).find((one) => one.code === code && one.id !== except);
  if (other) throw fieldProblem('code', `${code} is ${other.name}.`);
}

/** What partners are owed, or owe, of a month, as comma-separated values. @param month `YYYY-MM` */
async function monthCsv(sql: Reader, month: string): Promise<string> {
  const { currency, timezone } = await readShop(sql);
  const rows = await owedIn(sql, month, timezone);
  return csv(
    [
      'number',
      'partner',
      'code',
      'day',
      'recipient',
      'goods',
      'total',
      'owed to partner',
      'since',
      'settled',
    ],
    rows.map((row) => [
      promiseNumber(row.kind, row.count),
      row.partner,
      row.code,
      row.day,
      row.recipient,
      row.goods,
      { amount: row.total },
      { amount: row.amount },
      { at: row.at },
      row.settledAt ? { at: row.settledAt } : '',
    ]),
    { digits: currencyOf(currency).digits, timezone },
  );
}

/** Partners to whom orders are passed on, and what they are owed. */
export function partnerRoutes(house: House): Router {
  const { database, clock, events } = house;
  const router = Router();

  router.post(
    '/',
    change(house, partnerSchema, async ({ sql, body }) => {
      await checkCode(sql, body, 0);
      return { id: await relays.addPartner(sql, body) };
    }),
  );

  router.put(
    '/:id',
    change(house, partnerSchema, async ({ sql, body, request }) => {
      const id = idIn(request.params.id);
      await checkCode(sql, body, id);
      if (!(await relays.putPartner(sql, id, body))) throw fieldProblem('name', 'There is no such partner.');
    }),
  );

  router.get('/months', async (request, response) => {
    personWith(request, 'shop.set-up');
    response.json(await database.ask(async (sql) => partnerMonths(sql, (await readShop(sql)).timezone)));
  });

  router.get('/months/:name', async (request, response) => {
    personWith(request, 'shop.set-up');
    const [, month] = /^(\d{4}-\d{2})\.csv$/.exec(request.params.name) ?? [];
    if (!month) throw new Problem('not-found', 'There is no such month.');
    response
      .type('text/csv')
      .attachment(`partners-${month}.csv`)
      .send(await database.ask((sql) => monthCsv(sql, month)));
  });

  router.post(
    '/settled',
    change(house, settleMonthSchema, async ({ sql, person: { staffId }, body, request, afterwards }) => {
      const at = clock.now();
      const { timezone } = await readShop(sql);
      const id = idempotencyKey(request);
      const amount = await settleMonth(sql, { id, ...body, timezone, staffId, at });
      if (amount === null) throw fieldProblem('month', 'Nothing is open for that month any more.');
      afterwards(() => events.tell({ kind: 'relays-changed' }));
      // What both owe each other for the same month may come to nothing.
      if (amount === 0) return;
      const entries = partnerSettlementEntries({ partnerId: body.partnerId, amount });
      await postEvent(sql, { kind: 'partner-settlement', at, staffId, entries });
    }),
  );

  return router;
}
