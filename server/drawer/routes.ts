import { Router } from 'express';
import {
  cashMoveSchema,
  closeShiftSchema,
  countSheetSchema,
  drawerOpeningSchema,
  openDrawerSchema,
  type CloseShift,
} from '../../contract/drawer.ts';
import type { Pieces } from '../../core/drawer/countSheet.ts';
import { iso } from '../clock.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personOf, personWith } from '../http/session.ts';
import { idempotencyKey, validate, write } from '../http/write.ts';
import { sendPaper } from '../journal/printing/sendPaper.ts';
import {
  closeShift,
  drawerState,
  moveCash,
  openDrawer,
  openWithoutSale,
  reportPaper,
  saveCountSheet,
} from './service.ts';
import { closedShifts } from './store.ts';

export function drawerRoutes(house: House): Router {
  const router = Router();
  const tell = (tillId: number) => house.events.tell({ kind: 'drawer-changed', tillId });

  router.get('/', async (request, response) => {
    const { tillId } = personOf(request);
    response.json(await house.database.ask((sql) => drawerState(sql, tillId)));
  });

  router.post(
    '/shifts',
    write(house, 'drawer.open', openDrawerSchema, async ({ sql, person, body, afterwards }) => {
      afterwards(() => tell(person.tillId));
      return openDrawer(sql, person, body.pieces as Pieces, house.clock.now());
    }),
  );

  router.post(
    '/openings',
    write(house, 'sell', drawerOpeningSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(() => house.printing.wake());
      await openWithoutSale(sql, person, idempotencyKey(request), body, house.clock.now());
    }),
  );

  router.post(
    '/cash-moves',
    write(house, 'sell', cashMoveSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(() => {
        tell(person.tillId);
        house.printing.wake();
      });
      await moveCash(sql, person, idempotencyKey(request), body, house.clock.now());
    }),
  );

  // The revision makes a repeat harmless: the sheet is stored with every change, its answers need not be kept.
  router.put('/count-sheet', async (request, response) => {
    const person = personWith(request, 'drawer.close');
    idempotencyKey(request);
    const { pieces, revision } = await validate(countSheetSchema, request);
    response.json(
      await house.database.write((sql) =>
        saveCountSheet(sql, person, { pieces: pieces as Pieces, revision }),
      ),
    );
  });

  router.post(
    '/closings',
    write(house, 'drawer.close', closeShiftSchema, async ({ sql, person, body, afterwards }) => {
      afterwards(() => {
        tell(person.tillId);
        house.printing.wake();
      });
      return closeShift(sql, person, body as CloseShift, house.clock.now());
    }),
  );

  router.get('/shifts', async (request, response) => {
    const { tillId } = personWith(request, 'drawer.close');
    const shifts = await house.database.ask((sql) => closedShifts(sql, tillId, 30));
    response.json(shifts.map((shift) => ({ ...shift, closedAt: iso(shift.closedAt) })));
  });

  router.get('/shifts/:id/report{.:form}', async (request, response) => {
    personWith(request, 'drawer.close');
    const id = Number(request.params.id);
    if (!Number.isSafeInteger(id)) throw new Problem(404, 'no-shift', 'There is no such shift.');
    const paper = await house.database.ask((sql) => reportPaper(sql, id));
    await sendPaper(response, paper, request.params.form);
  });

  return router;
}
