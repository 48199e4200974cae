import { Router, type Request } from 'express';
import { dayOrNothing } from '../../contract/yup.ts';
import type { House } from '../house.ts';
import { idIn, pageIn, wordIn } from '../http/address.ts';
import { personOf, personWith } from '../http/session.ts';
import { idempotencyKey } from '../http/write.ts';
import { cardCsv, cardPage, settle } from './cardPayments.ts';
import { listTerminals, settlements, type CardFilter } from './store.ts';

const filterDay = dayOrNothing();

/** What terminals have taken and given back, and what they have settled. */
export function cardPaymentRoutes(house: House): Router {
  const { database } = house;
  const router = Router();
  const filterOf = async (request: Request): Promise<CardFilter> => ({
    from: (await filterDay.validate(wordIn(request.query.from))) ?? '',
    to: (await filterDay.validate(wordIn(request.query.to))) ?? '',
    find: wordIn(request.query.find),
    state: wordIn(request.query.state),
    kind: wordIn(request.query.kind),
  });

  router.get('/payments', async (request, response) => {
    personWith(request, 'card.list');
    const filter = await filterOf(request);
    response.json(await database.ask((sql) => cardPage(sql, filter, pageIn(request.query.page))));
  });
  router.get('/payments.csv', async (request, response) => {
    personWith(request, 'card.list');
    const filter = await filterOf(request);
    const csv = await database.ask((sql) => cardCsv(sql, filter));
    response.attachment('card-payments.csv').type('text/csv; charset=utf-8').send(csv);
  });
  router.get('/settlements', async (request, response) => {
    personWith(request, 'card.list');
    response.json(await database.ask((sql) => settlements(sql, idIn(request.query.before))));
  });
  router.get('/terminals', async (request, response) => {
    personOf(request);
    response.json(await database.ask(listTerminals));
  });
  // What the terminal has settled it settles once: asking again finds nothing more.
  router.post('/terminals/:id/settle', async (request, response) => {
    const person = personWith(request, 'card.list');
    idempotencyKey(request);
    response.json(await settle(house, person, idIn(request.params.id)));
  });
  return router;
}
