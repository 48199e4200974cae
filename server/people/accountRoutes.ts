import { shopToday } from '../shop/store.ts';
import { Router, type Request, type Response } from 'express';
import {
  accountListSchema,
  accountSchema,
  bankListSchema,
  bankPaymentSchema,
  bookLineSchema,
  openingSchema,
  remindSchema,
  statementSchema,
  writeOffSchema,
} from '../../contract/accounts.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { type WriteContext, idempotencyKey, replace, validate, validateQuery, write } from '../http/write.ts';
import { makePdf } from '../pdf.ts';
import { addMessage } from '../outbox/store.ts';
import * as service from './accounts.ts';
import { accountById, accountsFor } from './accountStore.ts';
import * as bank from './bankLines.ts';
import { remind } from './reminders.ts';
import { statementsOn } from './statementPdf.ts';
import { statementCsv, statementSheets, statementView } from './statements.ts';
import { StatementsOfAll } from './statementsOfAll.ts';

/** The number that an address names. @throws Problem 404 */
function idIn({ params }: Request): number {
  const id = Number(params.id);
  if (!Number.isInteger(id) || id < 1 || id >= 2 ** 31)
    throw new Problem('not-found', 'There is no such house account.');
  return id;
}

/** House accounts: what is owed, what comes in, statements and reminders. */
export function accountRoutes(house: House): Router {
  const router = Router();
  addAccounts(router, house);
  addStatements(router, house);
  addBank(router, house);
  return router;
}

const by = ({ person }: Pick<WriteContext<unknown>, 'person'>, { clock }: Pick<House, 'clock'>) => ({
  staffId: person.staffId,
  at: clock.now(),
});

/** Tells every till that what somebody owes has changed. */
const telling = (
  { events }: Pick<House, 'events'>,
  { afterwards }: Pick<WriteContext<unknown>, 'afterwards'>,
) => afterwards(() => events.tell({ kind: 'people-changed', customerId: null }));

function addAccounts(router: Router, house: House): void {
  const { database, clock } = house;
  router.get('/', async (request, response) => {
    personWith(request, 'account.manage');
    const query = await validateQuery(accountListSchema, request);
    response.json(
      await database.ask(async (sql) => service.accountPage(sql, query, await shopToday(sql, clock.now()))),
    );
  });
  router.get('/of/:id', async (request, response) => {
    personWith(request, 'sell');
    const customerId = idIn(request);
    response.json(
      await database.ask(async (sql) => {
        const today = await shopToday(sql, clock.now());
        return {
          account: await service.accountView(sql, customerId, today),
          // Whose accounts they buy on.
          buysOn: (await accountsFor(sql, customerId, today)).filter((one) => one.customerId !== customerId),
        };
      }),
    );
  });
  router.put(
    '/of/:id',
    replace(house, 'account.manage', accountSchema, (context) => {
      telling(house, context);
      return service.putAccount(context.sql, idIn(context.request), context.body, by(context, house));
    }),
  );
  router.post(
    '/:id/payments',
    write(house, 'account.manage', bankPaymentSchema, async (context) => {
      telling(house, context);
      await service.takeBankPayment(context.sql, idIn(context.request), context.body, by(context, house));
    }),
  );
  router.post(
    '/:id/write-off',
    write(house, 'account.write-off', writeOffSchema, (context) => {
      telling(house, context);
      return service.writeOff(context.sql, idIn(context.request), context.body, by(context, house));
    }),
  );
  router.post(
    '/:id/opening',
    write(house, 'account.manage', openingSchema, (context) => {
      telling(house, context);
      return service.putOpening(context.sql, idIn(context.request), context.body, by(context, house));
    }),
  );
  router.post(
    '/reminders',
    write(house, 'account.manage', remindSchema, async (context) => {
      const { sql, body, afterwards } = context;
      telling(house, context);
      afterwards(() => house.outbox.wake());
      return remind(sql, body.accountId, await shopToday(sql, clock.now()), clock.now());
    }),
  );
}

function addStatements(router: Router, house: House): void {
  const { database, clock } = house;
  const ofAll = new StatementsOfAll(house);
  const named = (request: Request) => {
    const job = ofAll.look(String(request.params.job));
    if (!job) throw new Problem('not-found', 'These statements are there no more: make them again.');
    return job;
  };
  const sendPdf = (response: Response, name: string, pdf: Uint8Array) =>
    response.attachment(name).type('application/pdf').send(Buffer.from(pdf));

  router.get('/:id/statement', async (request, response) => {
    personWith(request, 'sell');
    const days = await validateQuery(statementSchema, request);
    response.json(await database.ask((sql) => statementView(sql, idIn(request), days)));
  });
  router.get('/:id/statement.pdf', async (request, response) => {
    personWith(request, 'sell');
    const days = await validateQuery(statementSchema, request);
    const id = idIn(request);
    const { sheets, size } = await database.ask((sql) => statementSheets(sql, [id], days));
    if (!sheets[0]) throw new Problem('not-found', 'There is no such house account.');
    sendPdf(
      response,
      `statement-${sheets[0].number}-${days.to}.pdf`,
      await makePdf(statementsOn(sheets, size)),
    );
  });
  router.get('/:id/statement.csv', async (request, response) => {
    personWith(request, 'sell');
    const days = await validateQuery(statementSchema, request);
    const csv = await database.ask((sql) => statementCsv(sql, idIn(request), days));
    response.attachment(`statement-${days.to}.csv`).type('text/csv; charset=utf-8').send(csv);
  });
  router.post(
    '/:id/statement/mails',
    write(house, 'sell', statementSchema, async ({ sql, body, request, afterwards }) => {
      const account = await accountById(sql, idIn(request));
      if (!account) throw new Problem('not-found', 'There is no such house account.');
      if (!account.mail) throw fieldProblem('mail', `No mail address of ${account.name} is known.`);
      await addMessage(sql, {
        kind: 'mail',
        recipient: account.mail,
        subject: 'Your statement',
        saleId: null,
        storedValueId: null,
        accountId: account.id,
        about: { kind: 'statement', ...body },
        at: clock.now(),
      });
      afterwards(() => house.outbox.wake());
      return { to: account.mail };
    }),
  );

  // Making them changes nothing: asked for twice, they are made once.
  router.post('/statements', async (request, response) => {
    personWith(request, 'account.manage');
    idempotencyKey(request);
    const days = await validate(statementSchema, request);
    const today = await database.ask((sql) => shopToday(sql, clock.now()));
    response.json(ofAll.begin(days, today));
  });
  router.get('/statements/:job', (request, response) => {
    personWith(request, 'account.manage');
    response.json(named(request));
  });
  router.get('/statements/:job/all.pdf', (request, response) => {
    personWith(request, 'account.manage');
    const { id } = named(request);
    const pdf = ofAll.file(id);
    if (!pdf) throw new Problem('not-found', 'These statements are not made yet.');
    sendPdf(response, 'statements.pdf', pdf);
  });
}

function addBank(router: Router, house: House): void {
  router.get('/bank', async (request, response) => {
    personWith(request, 'account.manage');
    response.json(await house.database.ask(bank.bankLines));
  });
  router.post(
    '/bank',
    write(house, 'account.manage', bankListSchema, (context) =>
      bank.takeBankList(context.sql, context.body.csv, by(context, house)),
    ),
  );
  router.post(
    '/bank/:id/book',
    write(house, 'account.manage', bookLineSchema, (context) => {
      telling(house, context);
      return bank.bookLine(context.sql, idIn(context.request), context.body.accountId, by(context, house));
    }),
  );
  router.post(
    '/bank/:id/drop',
    write(house, 'account.manage', null, ({ sql, request }) => bank.dropLine(sql, idIn(request))),
  );
}
