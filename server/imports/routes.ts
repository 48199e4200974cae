import express, { Router, type Request } from 'express';
import { acceptImportSchema, importColumnsSchema, type ImportSubject } from '../../contract/imports.ts';
import { string } from '../../contract/yup.ts';
import type { Right } from '../../core/staff/rights.ts';
import type { House } from '../house.ts';
import { pageIn } from '../http/address.ts';
import { Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { write } from '../http/write.ts';
import { readTill } from '../shop/store.ts';
import * as imports from './service.ts';
import { importLines } from './store.ts';

/** About 100,000 lines. */
const MOST_IMPORTED = '32mb';
const uuid = string().uuid().required();

function uuidIn({ params }: Request): string {
  if (!uuid.isValidSync(params.id)) throw new Problem('no-import', 'There is no such list.');
  return params.id;
}

/** Lists of one subject, for whoever has the right. */
export function importRoutes(house: House, subject: ImportSubject, right: Right): Router {
  const router = Router();
  const { database, clock } = house;
  const wake = () => house.imports.wake();
  router.get('/', async (request, response) => {
    personWith(request, right);
    response.json(await database.ask((sql) => imports.lastImport(sql, subject)));
  });
  // The id of the list makes a repeat harmless.
  router.put('/:id', express.text({ type: 'text/csv', limit: MOST_IMPORTED }), async (request, response) => {
    const { staffId, tillId } = personWith(request, right);
    const id = uuidIn(request);
    const name = String(request.query.name ?? '').slice(0, 120) || 'list.csv';
    const content = typeof request.body === 'string' ? request.body : '';
    const view = await database.write(async (sql) => {
      const { placeId } = await readTill(sql, tillId);
      return imports.beginImport(sql, { id, subject, name, content, staffId, placeId, at: clock.now() });
    });
    wake();
    response.json(view);
  });
  router.get('/:id', async (request, response) => {
    personWith(request, right);
    const id = uuidIn(request);
    response.json(await database.ask((sql) => imports.importView(sql, subject, id)));
  });
  router.get('/:id/lines', async (request, response) => {
    personWith(request, right);
    const id = uuidIn(request);
    const page = pageIn(request.query.page);
    const outcome = String(request.query.outcome ?? '');
    response.json(await database.ask((sql) => importLines(sql, id, outcome, page)));
  });
  router.put(
    '/:id/columns',
    // eslint-disable-next-line no-restricted-syntax -- `chooseColumns` refuses a list that has gone on meanwhile
    write(house, right, importColumnsSchema, ({ sql, body, request, afterwards }) => {
      afterwards(wake);
      return imports.chooseColumns(sql, subject, uuidIn(request), body.columns);
    }),
  );
  router.post(
    '/:id/accept',
    write(house, right, acceptImportSchema, ({ sql, body, request, afterwards }) => {
      afterwards(wake);
      return imports.acceptImport(sql, subject, uuidIn(request), body.doubles);
    }),
  );
  router.post(
    '/:id/drop',
    write(house, right, null, ({ sql, request }) => imports.dropImport(sql, subject, uuidIn(request))),
  );
  return router;
}
