import { Router } from 'express';
import {
  enquirySchema,
  findValuesSchema,
  importSchema,
  moveCardSchema,
  newCertificateSchema,
} from '../../contract/giftCards.ts';
import type { House } from '../house.ts';
import { idIn, wordIn } from '../http/address.ts';
import { personWith } from '../http/session.ts';
import { validate, write } from '../http/write.ts';
import { sourceOf } from '../staff/source.ts';
import * as values from './giftCards.ts';

/** Gift cards, certificates and store credit: what is on them, and who looks after them. */
export function giftCardRoutes(house: House): Router {
  const { database, clock } = house;
  const router = Router();
  // Every cashier may ask what is on a card that is typed or scanned; wrong numbers are slowed like PINs. The number is
  // bearer money: it stands in no address.
  router.post('/enquiries', async (request, response) => {
    const person = personWith(request, 'sell');
    const { number } = await validate(enquirySchema, request);
    response.json(
      await values.enquire(
        house,
        { what: 'number', tillId: person.tillId, source: sourceOf(request) },
        number,
      ),
    );
  });
  router.get('/fresh-number', async (request, response) => {
    personWith(request, 'sell');
    response.json({ number: await database.ask(values.freshNumber) });
  });
  router.post('/search', async (request, response) => {
    const person = personWith(request, 'sell');
    const { page, ...filter } = await validate(findValuesSchema, request);
    response.json(
      await database.ask((sql) => values.storedValuePage(sql, person, filter, page, clock.now())),
    );
  });
  router.get('/cards.csv', async (request, response) => {
    personWith(request, 'gift-card.manage');
    const filter = { find: '', kind: wordIn(request.query.kind), state: wordIn(request.query.state) };
    const csv = await database.ask((sql) => values.storedValueCsv(sql, filter));
    response.attachment('gift-cards.csv').type('text/csv; charset=utf-8').send(csv);
  });
  router.get('/:id', async (request, response) => {
    const person = personWith(request, 'sell');
    response.json(
      await database.ask((sql) =>
        values.storedValueHistory(sql, person, idIn(request.params.id), clock.now()),
      ),
    );
  });
  router.post(
    '/:id/freeze',
    write(house, 'gift-card.manage', null, ({ sql, request }) =>
      values.setFrozen(sql, idIn(request.params.id), true),
    ),
  );
  router.post(
    '/:id/unfreeze',
    write(house, 'gift-card.manage', null, ({ sql, request }) =>
      values.setFrozen(sql, idIn(request.params.id), false),
    ),
  );
  router.post(
    '/:id/move',
    write(house, 'gift-card.manage', moveCardSchema, ({ sql, person, body, request }) =>
      values.moveCard(sql, person, idIn(request.params.id), body.number, clock.now()),
    ),
  );
  router.post(
    '/certificates',
    write(house, 'gift-card.manage', newCertificateSchema, async ({ sql, person, body }) => ({
      id: await values.addCertificate(sql, person, body, clock.now()),
    })),
  );
  router.post(
    '/certificates/import',
    write(house, 'gift-card.manage', importSchema, ({ sql, person, body }) =>
      values.importCertificates(sql, person, body.csv, clock.now()),
    ),
  );
  router.post(
    '/expired',
    write(house, 'gift-card.manage', null, ({ sql, person }) =>
      values.writeOffExpired(sql, person, clock.now()),
    ),
  );
  return router;
}
