import { Router, type Request } from 'express';
import { string } from '../../contract/yup.ts';
import {
  giveRefundSchema,
  keepCardSchema,
  pairTerminalSchema,
  paymentSettingsSchema,
  planRefundSchema,
  takeTenderSchema,
  tenderOrderSchema,
  tenderTypeSchema,
  tillTerminalSchema,
} from '../../contract/payment.ts';
import { tenderKind } from '../../core/payment/tenderKinds.ts';
import { TerminalRefusal } from '../../devices/terminal/driver.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { personOf, personWith } from '../http/session.ts';
import { askedBy, idempotencyKey, validate, write } from '../http/write.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { giveRefund, refundPlan } from './refunds.ts';
import { listTerminals } from '../cardPayments/store.ts';
import { forgetCard, keepCardOf } from './cardsOnFile.ts';
import * as service from './service.ts';
import * as steps from './tenderSteps.ts';
import { lastChange } from '../shop/changeStore.ts';
import { change, keepChanges, seenBy } from '../shop/changes.ts';
import { sourceOf } from '../staff/source.ts';
import * as settings from './settingsStore.ts';
import { cardsOnFile } from '../people/cardOnFileStore.ts';
import { tenderTypes } from '../tenders/store.ts';

const uuid = string().uuid().required();

function uuidIn(request: Request, name: string): string {
  const value = request.params[name];
  if (!uuid.isValidSync(value)) throw new Problem('not-found', 'There is no such payment.');
  return value;
}

export function paymentRoutes(house: House): Router {
  const router = Router();
  addTenders(router, house);
  addSettings(router, house);
  return router;
}

function addTenders(router: Router, house: House): void {
  router.get('/baskets/:id', async (request, response) => {
    personOf(request);
    response.json(await service.paymentView(house, uuidIn(request, 'id')));
  });

  // The id of the payment makes a repeat harmless.
  router.post('/tenders', async (request, response) => {
    const person = personWith(request, 'sell');
    const wanted = await validate(takeTenderSchema, request);
    const asked = askedBy(request, wanted);
    if (asked.key !== wanted.id) {
      throw new Problem('no-key', "A payment's Idempotency-Key is its id.");
    }
    response.json(await service.takeTender(house, person, wanted, asked, sourceOf(request)));
  });

  // Reads only: what the rules of the shop say of this basket.
  router.post('/refunds/plan', async (request, response) => {
    const person = personWith(request, 'sell');
    const { basket, expectedTotal } = await validate(planRefundSchema, request);
    response.json(await refundPlan(house, person, { basket: basket as Basket, expectedTotal }));
  });
  router.post('/refunds', async (request, response) => {
    const person = personWith(request, 'sell');
    const wanted = await validate(giveRefundSchema, request);
    response.json(await giveRefund(house, person, wanted, askedBy(request, wanted)));
  });
  router.post('/tenders/:id/cancel', async (request, response) => {
    const person = personWith(request, 'sell');
    const asked = askedBy(request, null);
    response.json(await steps.cancelTender(house, person, uuidIn(request, 'id'), asked));
  });
  router.post('/tenders/:id/check', async (request, response) => {
    const person = personWith(request, 'sell');
    const asked = askedBy(request, null);
    response.json(await steps.checkTender(house, person, uuidIn(request, 'id'), asked));
  });
  router.post('/tenders/:id/abandon', async (request, response) => {
    const person = personWith(request, 'sell');
    const asked = askedBy(request, null);
    response.json(await steps.abandonTender(house, person, uuidIn(request, 'id'), asked));
  });
  router.post('/tenders/:id/undo', async (request, response) => {
    const person = personWith(request, 'payment.undo');
    const asked = askedBy(request, null);
    response.json(await steps.undoTender(house, person, uuidIn(request, 'id'), asked));
  });

  router.post('/tenders/:id/keep-card', async (request, response) => {
    const person = personWith(request, 'sell');
    idempotencyKey(request);
    const { customerId } = await validate(keepCardSchema, request);
    await keepCardOf(house, person, uuidIn(request, 'id'), customerId);
    response.json({});
  });
  router.get('/cards-on-file/:customerId', async (request, response) => {
    personOf(request);
    response.json(await house.database.ask((sql) => cardsOnFile(sql, idIn(request.params.customerId))));
  });
  router.delete(
    '/cards-on-file/:id',
    write(house, 'sell', null, ({ sql, person, request }) =>
      forgetCard(sql, person, idIn(request.params.id), house.clock.now()),
    ),
  );
}

function addSettings(router: Router, house: House): void {
  router.get('/settings', async (request, response) => {
    personWith(request, 'shop.set-up');
    response.json(
      await house.database.ask(async (sql) => ({
        seen: await lastChange(sql),
        settings: await settings.readPaymentSettings(sql),
        types: await tenderTypes(sql),
        terminals: await listTerminals(sql),
      })),
    );
  });
  router.put(
    '/settings',
    change(house, paymentSettingsSchema, async ({ sql, body }) => {
      if (body.roundUpStep > 0 && !body.fund) throw fieldProblem('fund', 'Whom does the shop round up for?');
      await settings.putPaymentSettings(sql, body);
    }),
  );
  router.post(
    '/types',
    change(house, tenderTypeSchema, async ({ sql, body }) => {
      const known = await tenderTypes(sql);
      if (tenderKind(body.kind).onlyOnce) {
        throw fieldProblem('kind', 'There is one of this kind already.');
      }
      if (known.some(({ name }) => name.toLowerCase() === body.name.toLowerCase())) {
        throw fieldProblem('name', `There is ${body.name} already.`);
      }
      return { id: await settings.addTenderType(sql, body) };
    }),
  );
  router.put(
    '/types/:id',
    change(house, tenderTypeSchema, async ({ sql, body, request }) => {
      const id = idIn(request.params.id);
      const known = await tenderTypes(sql);
      const type = known.find((one) => one.id === id);
      if (!type) throw new Problem('not-found', 'There is no such means of payment.');
      if (known.some((one) => one.id !== id && one.name.toLowerCase() === body.name.toLowerCase())) {
        throw fieldProblem('name', `There is ${body.name} already.`);
      }
      if (type.kind === 'cash' && !body.active) throw fieldProblem('active', 'Cash is always taken.');
      await settings.changeTenderType(sql, id, { ...body, kind: type.kind });
    }),
  );
  router.put(
    '/order',
    change(house, tenderOrderSchema, async ({ sql, body }) => {
      await settings.orderTenderTypes(sql, body.ids.split(',').map(Number));
    }),
  );
  router.post('/terminals', async (request, response) => {
    const person = personWith(request, 'shop.set-up');
    idempotencyKey(request);
    const seen = seenBy(request);
    const { name, code, tillId } = await validate(pairTerminalSchema, request);
    const terminals = await house.database.ask(listTerminals);
    if (terminals.some((one) => one.name.toLowerCase() === name.toLowerCase())) {
      throw fieldProblem('name', `There is a terminal ${name} already.`);
    }
    const serial = await house.terminal.pair(code).catch((error: unknown) => {
      if (error instanceof TerminalRefusal) throw fieldProblem('code', error.message);
      throw error;
    });
    await house.database.write((sql) =>
      keepChanges(house, sql, { staffId: person.staffId, at: house.clock.now(), seen }, async () => {
        const id = await settings.addTerminal(sql, serial, name);
        await settings.offerTerminal(sql, tillId, id, true);
      }),
    );
    house.events.tell({ kind: 'shop-changed' });
    response.json({ serial });
  });
  router.put(
    '/terminals/till',
    change(house, tillTerminalSchema, async ({ sql, body }) => {
      await settings.offerTerminal(sql, body.tillId, body.terminalId, body.offered);
    }),
  );
}
