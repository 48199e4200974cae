import { Router } from 'express';
import { newItemSchema, tieCodeSchema, type Catalogue } from '../../contract/goods.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personOf, personWith } from '../http/session.ts';
import { write } from '../http/write.ts';
import { findShop, readTill } from '../shop/store.ts';
import { addItemAtTill, tieCode } from './service.ts';
import {
  catalogueRevision,
  findPicture,
  itemFacts,
  itemsSince,
  lowestPrice,
  removedSince,
  stockAt,
  stockedSerials,
} from './store.ts';

/** An item's or picture's number in an address; 0, which nothing has, when it is none. */
const idOf = (text: string): number => {
  const id = Number(text);
  return Number.isInteger(id) && id > 0 && id < 2 ** 31 ? id : 0;
};

export function goodsRoutes(house: House): Router {
  const { database, events, clock } = house;
  const router = Router();

  router.get('/catalogue', async (request, response) => {
    const { tillId } = personOf(request);
    const asked = Math.max(0, Math.trunc(Number(request.query.since ?? 0)) || 0);
    const answer = await database.ask(async (sql) => {
      const { placeId } = await readTill(sql, tillId);
      const origin = (await findShop(sql))?.mailId ?? '';
      // Read first: what changes between the two statements is sent again next time, never left out.
      const revision = await catalogueRevision(sql);
      // What is newer than another history, or than what was put back from a backup, cannot be told.
      const since = request.query.origin === origin && asked <= revision ? asked : 0;
      const head: Omit<Catalogue, 'items'> = {
        origin,
        revision,
        whole: since === 0,
        removed: since === 0 ? [] : await removedSince(sql, since),
      };
      return `${JSON.stringify(head).slice(0, -1)},"items":${await itemsSince(sql, placeId, since)}}`;
    });
    response.type('json').send(answer);
  });

  router.get('/stock', async (request, response) => {
    const { tillId } = personOf(request);
    const levels = await database.ask(async (sql) => stockAt(sql, (await readTill(sql, tillId)).placeId));
    response.type('json').send(levels);
  });

  router.get('/items/:id', async (request, response) => {
    const { tillId } = personOf(request);
    const facts = await database.ask(async (sql) => {
      const { placeId } = await readTill(sql, tillId);
      return itemFacts(sql, idOf(request.params.id), placeId);
    });
    if (!facts) throw new Problem('no-item', 'There is no such item.');
    response.json(facts);
  });

  router.get('/items/:id/serials', async (request, response) => {
    const { tillId } = personOf(request);
    response.json(
      await database.ask(async (sql) => {
        const { placeId } = await readTill(sql, tillId);
        return stockedSerials(sql, idOf(request.params.id), placeId);
      }),
    );
  });

  router.get('/items/:id/return-price', async (request, response) => {
    personWith(request, 'sell');
    const price = await database.ask((sql) => lowestPrice(sql, idOf(request.params.id), clock.now()));
    if (price === undefined) throw new Problem('no-item', 'It never had a price: it cannot come back.');
    response.json({ price });
  });

  router.get('/pictures/:id', async (request, response) => {
    personOf(request);
    const picture = await database.ask((sql) => findPicture(sql, idOf(request.params.id)));
    if (!picture) throw new Problem('no-picture', 'There is no such picture.');
    response
      .type(picture.mediaType)
      // A picture never changes under its number; a drawing opened by itself may run nothing.
      .set({ 'cache-control': 'private, max-age=31536000, immutable', 'content-security-policy': 'sandbox' })
      .send(Buffer.from(picture.content, 'base64'));
  });

  router.post(
    '/items',
    write(house, 'goods.edit', newItemSchema, ({ sql, body, afterwards }) => {
      afterwards(() => events.tell({ kind: 'catalogue-changed' }));
      return addItemAtTill(sql, body, clock.now());
    }),
  );

  router.post(
    '/items/:id/codes',
    write(house, 'goods.edit', tieCodeSchema, ({ sql, body, request, afterwards }) => {
      afterwards(() => events.tell({ kind: 'catalogue-changed' }));
      return tieCode(sql, idOf(request.params.id as string), body.code);
    }),
  );

  return router;
}
