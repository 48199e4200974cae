import { Router } from 'express';
import { listQuerySchema } from '../../contract/listQuery.ts';
import type { Person } from '../../contract/staff.ts';
import {
  arrivedSchema,
  newTransferSchema,
  sendableSchema,
  transferVersionSchema,
  type TransferView,
} from '../../contract/transfers.ts';
import type { Reader } from '../db/database.ts';
import { availableLevels } from '../goods/layerStore.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { personWith } from '../http/session.ts';
import { validateQuery, write } from '../http/write.ts';
import { readTill } from '../shop/store.ts';
import { sendableItems } from './transferStore.ts';
import { askFor, cancel, send, takeIn, transfersPage, transferView } from './transfers.ts';

/** Goods that go from a place to another. */
export function transfersRoutes(house: House): Router {
  const { database, events, clock } = house;
  const router = Router();
  const by = ({ staffId }: Person) => ({ staffId, at: clock.now() });
  const changed = () => events.tell({ kind: 'supply-changed' });
  const levelsAt = async (sql: Reader, placeId: number, { lines }: TransferView) => ({
    kind: 'stock-changed' as const,
    placeId,
    levels: await availableLevels(
      sql,
      placeId,
      lines.map(({ itemId }) => itemId),
    ),
  });

  router.get('/', async (request, response) => {
    const { tillId } = personWith(request, 'stock.move');
    const query = await validateQuery(listQuerySchema, request);
    response.json(
      await database.ask(async (sql) => transfersPage(sql, query, (await readTill(sql, tillId)).placeId)),
    );
  });
  router.get('/items', async (request, response) => {
    personWith(request, 'stock.move');
    const { place, ...asked } = await validateQuery(sendableSchema, request);
    response.json(await database.ask((sql) => sendableItems(sql, place, asked)));
  });
  router.get('/:id', async (request, response) => {
    personWith(request, 'stock.move');
    response.json(await database.ask((sql) => transferView(sql, idIn(request.params.id))));
  });
  router.post(
    '/',
    write(house, 'stock.move', newTransferSchema, ({ sql, body, person, afterwards }) => {
      afterwards(changed);
      return askFor(sql, body, by(person));
    }),
  );
  router.post(
    '/:id/sent',
    write(house, 'stock.move', transferVersionSchema, async ({ sql, body, person, request, afterwards }) => {
      const sent = await send(sql, idIn(request.params.id), body.version, by(person));
      const told = await levelsAt(sql, sent.fromPlace, sent);
      afterwards(() => {
        changed();
        events.tell(told);
      });
      return sent;
    }),
  );
  router.post(
    '/:id/arrived',
    write(house, 'stock.move', arrivedSchema, async ({ sql, body, person, request, afterwards }) => {
      const came = await takeIn(sql, idIn(request.params.id), body, by(person));
      const told = await levelsAt(sql, came.toPlace, came);
      afterwards(() => {
        changed();
        events.tell(told);
      });
      return came;
    }),
  );
  router.post(
    '/:id/cancelled',
    write(house, 'stock.move', transferVersionSchema, ({ sql, body, request, afterwards }) => {
      afterwards(changed);
      return cancel(sql, idIn(request.params.id), body.version);
    }),
  );
  return router;
}
