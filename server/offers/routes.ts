import { csv, type CsvCell } from '../csv.ts';
import { Router } from 'express';
import {
  newCodesSchema,
  changeOfferSchema,
  offerSchema,
  offerStateSchema,
  rehearsalSchema,
  type OfferDraft,
} from '../../contract/offers.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { personOf, personWith } from '../http/session.ts';
import { idempotencyKey, replace, validate, write } from '../http/write.ts';
import { listPlaces, readShop } from '../shop/store.ts';
import { offerLabels } from './labels.ts';
import { createRehearsals } from './rehearsals.ts';
import { addCodes, keepOffer, lookUpCode, readOffer, switchOffer } from './service.ts';
import { groupNames, listOffers, offerCodes, withdrawCode } from './offerStore.ts';

export function offerRoutes(house: House): Router {
  const { database, events, clock } = house;
  const router = Router();
  const rehearsals = createRehearsals(house);
  const tellTills = () => events.tell({ kind: 'shop-changed' });

  router.get('/', async (request, response) => {
    personOf(request);
    response.json(await database.ask(listOffers));
  });

  router.post('/rehearsals', async (request, response) => {
    personWith(request, 'offers.edit');
    idempotencyKey(request);
    const { offer, offerId, from, to } = await validate(rehearsalSchema, request);
    response.json(await rehearsals.start({ ...(offer as OfferDraft), id: offerId ?? 0 }, { from, to }));
  });

  router.get('/rehearsals/:id', (request, response) => {
    personWith(request, 'offers.edit');
    response.json(rehearsals.find(request.params.id));
  });

  router.delete('/rehearsals/:id', (request, response) => {
    personWith(request, 'offers.edit');
    idempotencyKey(request);
    rehearsals.cancel(request.params.id);
    response.json({});
  });

  router.get('/rehearsals/:id/baskets.csv', async (request, response) => {
    personWith(request, 'offers.edit');
    const { findings } = rehearsals.find(request.params.id);
    const { currency, timezone } = await database.ask(readShop);
    const place = { digits: currencyOf(currency).digits, timezone };
    const rows = findings.changed.map(({ day, number, before, after }): CsvCell[] => [
      day,
      number,
      { amount: before },
      { amount: after },
      { amount: after - before },
    ]);
    response
      .type('text/csv')
      .set('content-disposition', 'attachment; filename="rehearsal.csv"')
      .send(csv(['day', 'receipt', 'without the offer', 'with it', 'difference'], rows, place));
  });

  router.get('/:id/labels.pdf', async (request, response) => {
    personWith(request, 'offers.edit');
    const pdf = await database.ask((sql) => offerLabels(sql, idIn(request.params.id)));
    response.type('application/pdf').send(pdf);
  });

  router.get('/choices', async (request, response) => {
    personOf(request);
    response.json(
      await database.ask(async (sql) => ({
        places: (await listPlaces(sql)).filter(({ kind }) => kind === 'shop'),
        groups: await groupNames(sql),
      })),
    );
  });

  router.get('/codes/:code', async (request, response) => {
    personWith(request, 'sell');
    response.json(await database.ask((sql) => lookUpCode(sql, request.params.code)));
  });

  router.post(
    '/',
    write(house, 'offers.edit', offerSchema, ({ sql, person, body }) =>
      keepOffer(sql, null, body as OfferDraft, { staffId: person.staffId, at: clock.now() }),
    ),
  );

  router.put(
    '/:id',
    replace(house, 'offers.edit', changeOfferSchema, ({ sql, person, body, request, afterwards }) => {
      afterwards(tellTills);
      const kept = { id: idIn(request.params.id), version: body.version };
      const by = { staffId: person.staffId, at: clock.now() };
      return keepOffer(sql, kept, body.offer as OfferDraft, by);
    }),
  );

  router.put(
    '/:id/state',
    replace(house, 'offers.edit', offerStateSchema, ({ sql, body, request, afterwards }) => {
      afterwards(tellTills);
      const kept = { id: idIn(request.params.id), version: body.version };
      return switchOffer(sql, kept, body.state, clock.now());
    }),
  );

  router.get('/:id/codes', async (request, response) => {
    personWith(request, 'offers.edit');
    response.json(await database.ask((sql) => offerCodes(sql, idIn(request.params.id))));
  });

  router.get('/:id/codes.csv', async (request, response) => {
    personWith(request, 'offers.edit');
    const id = idIn(request.params.id);
    const { name, codes } = await database.ask(async (sql) => ({
      ...(await readOffer(sql, id)),
      codes: await offerCodes(sql, id),
    }));
    const rows = codes.map(({ code, single, used }) => [
      name,
      code,
      single ? 'once' : 'any number of times',
      used,
    ]);
    response
      .type('text/csv')
      .set('content-disposition', `attachment; filename="codes-${id}.csv"`)
      .send(csv(['offer', 'code', 'opens it', 'used'], rows, { digits: 0, timezone: 'UTC' }));
  });

  router.post(
    '/:id/codes',
    write(house, 'offers.edit', newCodesSchema, ({ sql, body, request, afterwards }) => {
      afterwards(tellTills);
      return addCodes(sql, idIn(request.params.id), body, clock.now());
    }),
  );

  router.delete(
    '/codes/:code',
    write(house, 'offers.edit', null, ({ sql, request, afterwards }) => {
      afterwards(tellTills);
      return withdrawCode(sql, String(request.params.code), clock.now());
    }),
  );

  return router;
}
