import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import {
  addItemSchema,
  changeItemSchema,
  goodsListSchema,
  labelsSchema,
  manyItemsSchema,
  moreVariantsSchema,
  newBundleSchema,
  newFamilySchema,
  newItemSchema,
  partsSchema,
  priceToComeSchema,
  stockByHandSchema,
  tieCodeSchema,
  type Catalogue,
} from '../../contract/goods.ts';
import { newPictureSchema, picturesSchema } from '../../contract/pictures.ts';
import { stockValueSchema } from '../../contract/stockValue.ts';
import { stockMovesSchema } from '../../contract/stockMoves.ts';
import type { Person } from '../../contract/staff.ts';
import { MOST_AT_ONCE } from '../../core/goods/manyItems.ts';
import type { Reader, Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { idIn, sinceIn } from '../http/address.ts';
import { Problem } from '../http/problem.ts';
import { personOf, personWith } from '../http/session.ts';
import { type WriteContext, lookAndWrite, replace, validate, validateQuery, write } from '../http/write.ts';
import { findShop, readTill } from '../shop/store.ts';
import { addBundle, changeParts } from './bundles.ts';
import { addFamily, addVariants } from './families.ts';
import { emptyGoodsList, goodsCsv, goodsPage } from './goodsList.ts';
import { addItem, changeItem, itemPage, ownCode, type By } from './items.ts';
import { goodsVersions } from './listStore.ts';
import { labelsPage, labelsPdf, printLabels } from './labels.ts';
import { changeMany, lookAtMany, rehearseMany } from './manyItems.ts';
import { stockValue, stockValueCsv } from './stockValue.ts';
import { itemMeant } from './meantStore.ts';
import { movesCsv, movesPage } from './moves.ts';
import { addPicture, putPictures } from './pictures.ts';
import { addPriceToCome, removePriceToCome } from './pricesToCome.ts';
import { addItemAtTill, tieCode } from './service.ts';
import { putStockRight } from './stockByHand.ts';
import { availableLevels } from './layerStore.ts';
import {
  catalogueRevision,
  findPicture,
  itemFacts,
  allItems,
  itemsSince,
  lowestPrice,
  removedSince,
  stockAt,
  stockedSerials,
} from './store.ts';

export function goodsRoutes(house: House): Router {
  const { database, events, clock } = house;
  const router = Router();
  const placeOf = async (sql: Reader, tillId: number) => (await readTill(sql, tillId)).placeId;
  const by = ({ staffId }: Person) => ({ staffId, at: clock.now() });
  const changed = () => events.tell({ kind: 'catalogue-changed' });

  /** A change of one item, of which all tills hear; its page as it is then is the answer. */
  const onItem =
    <Body>(
      work: (change: { sql: Writer; id: number; body: Body; by: By; placeId: number }) => Promise<void>,
    ) =>
    async ({ sql, body, person, request, afterwards }: WriteContext<Body>) => {
      afterwards(changed);
      const id = idIn(request.params.id);
      const placeId = await placeOf(sql, person.tillId);
      await work({ sql, id, body, by: by(person), placeId });
      return itemPage(sql, id, placeId, clock.now());
    };

  router.get('/catalogue', async (request, response) => {
    const { tillId } = personOf(request);
    const asked = sinceIn(request.query.since);
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
      const items = head.whole ? await allItems(sql, placeId) : await itemsSince(sql, placeId, since);
      return `${JSON.stringify(head).slice(0, -1)},"items":${items}}`;
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
      return itemFacts(sql, idIn(request.params.id), placeId);
    });
    if (!facts) throw new Problem('no-item', 'There is no such item.');
    response.json(facts);
  });

  router.get('/list', async (request, response) => {
    const { tillId, rights } = personWith(request, 'goods.edit');
    const query = await validateQuery(goodsListSchema, request);
    const costs = rights.includes('goods.cost');
    response.json(
      await database.ask(async (sql) =>
        goodsPage(sql, query, { placeId: await placeOf(sql, tillId), costs, at: clock.now() }),
      ),
    );
  });

  // Whoever picks all that a list shows, on whatever page.
  router.get('/list/versions', async (request, response) => {
    const { tillId } = personWith(request, 'goods.edit');
    const query = await validateQuery(goodsListSchema, request);
    response.json(
      await database.ask(async (sql) => goodsVersions(sql, query, await placeOf(sql, tillId), MOST_AT_ONCE)),
    );
  });

  router.get('/moves', async (request, response) => {
    const { rights } = personWith(request, 'goods.edit');
    const query = await validateQuery(stockMovesSchema, request);
    response.json(await database.ask((sql) => movesPage(sql, query, rights.includes('goods.cost'))));
  });
  router.get('/moves.csv', async (request, response) => {
    const { rights } = personWith(request, 'goods.import');
    const query = await validateQuery(stockMovesSchema, request);
    response.attachment('stock-moves.csv').type('text/csv; charset=utf-8');
    await pipeline(Readable.from(movesCsv(database, query, rights.includes('goods.cost'))), response);
  });

  router.get('/value', async (request, response) => {
    personWith(request, 'goods.cost');
    const query = await validateQuery(stockValueSchema, request);
    response.json(await database.ask((sql) => stockValue(sql, query)));
  });
  router.get('/value.csv', async (request, response) => {
    personWith(request, 'goods.cost');
    const query = await validateQuery(stockValueSchema, request);
    response.attachment('stock-value.csv').type('text/csv; charset=utf-8');
    response.send(await database.ask((sql) => stockValueCsv(sql, query)));
  });

  router.get('/own-code', async (request, response) => {
    personWith(request, 'goods.edit');
    response.json({ code: await database.ask(ownCode) });
  });

  // What is typed or scanned before there is an item: whether one has it already.
  router.get('/codes/:code', async (request, response) => {
    personWith(request, 'goods.edit');
    const found = await database.ask((sql) => itemMeant(sql, request.params.code));
    response.json({ id: found?.id ?? null });
  });

  router.get('/items/:id/page', async (request, response) => {
    const { tillId } = personWith(request, 'goods.edit');
    const id = idIn(request.params.id);
    response.json(
      await database.ask(async (sql) => itemPage(sql, id, await placeOf(sql, tillId), clock.now())),
    );
  });

  router.get('/items/:id/serials', async (request, response) => {
    const { tillId } = personOf(request);
    response.json(
      await database.ask(async (sql) => {
        const { placeId } = await readTill(sql, tillId);
        return stockedSerials(sql, idIn(request.params.id), placeId);
      }),
    );
  });

  router.get('/items/:id/return-price', async (request, response) => {
    personWith(request, 'sell');
    const price = await database.ask((sql) => lowestPrice(sql, idIn(request.params.id), clock.now()));
    if (price === undefined) throw new Problem('no-item', 'It never had a price: it cannot come back.');
    response.json({ price });
  });

  router.get('/pictures/:id', async (request, response) => {
    personOf(request);
    const picture = await database.ask((sql) => findPicture(sql, idIn(request.params.id)));
    if (!picture) throw new Problem('no-picture', 'There is no such picture.');
    response
      .type(picture.mediaType)
      // A picture never changes under its number; a drawing opened by itself may run nothing.
      .set({ 'cache-control': 'private, max-age=31536000, immutable', 'content-security-policy': 'sandbox' })
      .send(Buffer.from(picture.content, 'base64'));
  });

  router.post(
    '/items',
    write(house, 'goods.edit', newItemSchema, ({ sql, body, person, afterwards }) => {
      afterwards(() => events.tell({ kind: 'catalogue-changed' }));
      return addItemAtTill(sql, body, by(person));
    }),
  );

  router.post(
    '/items/:id/codes',
    write(house, 'goods.edit', tieCodeSchema, ({ sql, body, person, request, afterwards }) => {
      afterwards(() => events.tell({ kind: 'catalogue-changed' }));
      return tieCode(sql, idIn(request.params.id), body.code, by(person));
    }),
  );

  router.get('/list.csv', async (request, response) => {
    const { tillId } = personWith(request, 'goods.import');
    const query = await validateQuery(goodsListSchema, request);
    const placeId = await database.ask((sql) => placeOf(sql, tillId));
    response.attachment('goods.csv').type('text/csv; charset=utf-8');
    await pipeline(Readable.from(goodsCsv(database, query, placeId)), response);
  });
  router.get('/template.csv', (request, response) => {
    personWith(request, 'goods.import');
    response.attachment('goods-template.csv').type('text/csv; charset=utf-8').send(emptyGoodsList());
  });

  router.get('/labels', async (request, response) => {
    personWith(request, 'goods.edit');
    response.json(await database.ask((sql) => labelsPage(sql, clock.now())));
  });

  router.get('/labels/:id.pdf', async (request, response) => {
    personWith(request, 'goods.edit');
    const pdf = await database.ask((sql) => labelsPdf(sql, idIn(request.params.id)));
    response.type('pdf').send(pdf);
  });

  router.post(
    '/labels',
    write(house, 'goods.edit', labelsSchema, async ({ sql, body, person }) =>
      printLabels(sql, body, { ...by(person), placeId: await placeOf(sql, person.tillId) }),
    ),
  );

  router.post(
    '/items/new',
    write(house, 'goods.edit', addItemSchema, async ({ sql, body, person, afterwards }) => {
      afterwards(changed);
      return addItem(sql, body, await placeOf(sql, person.tillId), by(person));
    }),
  );

  router.post(
    '/families',
    write(house, 'goods.edit', newFamilySchema, ({ sql, body, person, afterwards }) => {
      afterwards(changed);
      return addFamily(sql, body, by(person));
    }),
  );

  router.post(
    '/families/:id/variants',
    write(
      house,
      'goods.edit',
      moreVariantsSchema,
      onItem(({ sql, id, body, by }) => addVariants(sql, id, body, by)),
    ),
  );

  router.post(
    '/bundles',
    write(house, 'goods.edit', newBundleSchema, ({ sql, body, person, afterwards }) => {
      afterwards(changed);
      return addBundle(sql, body, by(person));
    }),
  );

  router.put(
    '/bundles/:id/parts',
    replace(
      house,
      'goods.edit',
      partsSchema,
      onItem(({ sql, id, body, by, placeId }) => changeParts(sql, id, body, { ...by, placeId })),
    ),
  );

  router.put(
    '/items/:id',
    replace(
      house,
      'goods.edit',
      changeItemSchema,
      onItem(({ sql, id, body, by }) => changeItem(sql, id, body, by)),
    ),
  );

  router.post(
    '/items/:id/prices',
    write(
      house,
      'goods.edit',
      priceToComeSchema,
      onItem(({ sql, id, body, by }) => addPriceToCome(sql, id, body, by)),
    ),
  );

  router.delete(
    '/items/:id/prices/:from',
    write(house, 'goods.edit', null, async ({ sql, person, request, afterwards }) => {
      afterwards(changed);
      const id = idIn(request.params.id);
      const { from } = priceToComeSchema.pick(['from']).validateSync({ from: request.params.from });
      await removePriceToCome(sql, id, from, by(person));
      return itemPage(sql, id, await placeOf(sql, person.tillId), clock.now());
    }),
  );

  router.post(
    '/items/:id/pictures',
    write(
      house,
      'goods.edit',
      newPictureSchema,
      onItem(({ sql, id, body, by }) => addPicture(sql, id, body, by)),
    ),
  );
  router.put(
    '/items/:id/pictures',
    replace(
      house,
      'goods.edit',
      picturesSchema,
      onItem(({ sql, id, body, by }) => putPictures(sql, id, body, by)),
    ),
  );

  router.post(
    '/items/:id/moves',
    write(house, 'stock.move', stockByHandSchema, async ({ sql, body, person, request, afterwards }) => {
      const id = idIn(request.params.id);
      await putStockRight(sql, id, body, person, clock.now());
      const levels = await availableLevels(sql, body.placeId, [id]);
      afterwards(() => events.tell({ kind: 'stock-changed', placeId: body.placeId, levels }));
      return itemPage(sql, id, await placeOf(sql, person.tillId), clock.now());
    }),
  );

  // Looking at what a change would do changes nothing.
  router.post('/changes/rehearsal', async (request, response) => {
    personWith(request, 'goods.edit');
    const asked = await validate(manyItemsSchema, request);
    response.json(await rehearseMany(database, asked, clock.now()));
  });

  router.post(
    '/changes',
    lookAndWrite(
      house,
      'goods.edit',
      manyItemsSchema,
      (asked) => lookAtMany(database, asked, clock.now()),
      ({ sql, body, person, afterwards }, looked) => {
        afterwards(changed);
        return changeMany(sql, body, looked, by(person));
      },
    ),
  );

  return router;
}
