import { Router, type Request } from 'express';
import { object, whole, day } from '../../contract/yup.ts';
import {
  cashMoveSchema,
  compareSchema,
  closeShiftSchema,
  correctTenderSchema,
  countSheetSchema,
  drawerOpeningSchema,
  explainSchema,
  handOverSchema,
  openDrawerSchema,
  type OpenDrawer,
  varianceNoteSchema,
  type CloseShift,
  type Compare,
  type Explain,
  type HandOver,
} from '../../contract/drawer.ts';
import { countedOf, type Pieces } from '../../core/drawer/countSheet.ts';
import { iso } from '../clock.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { Problem } from '../http/problem.ts';
import { personOf, personWith } from '../http/session.ts';
import { idempotencyKey, validate, validateQuery, write } from '../http/write.ts';
import { sendPaper } from '../journal/printing/sendPaper.ts';
import {
  closeShift,
  compareCount,
  closedShiftView,
  drawerState,
  openDrawer,
  reportPaper,
  saveCountSheet,
} from './service.ts';
import { moveCash, openWithoutSale } from './cashMoves.ts';
import { mayCloseFor } from './checks.ts';
import { handOver } from './handover.ts';
import { peopleToHandTo } from './handoverStore.ts';
import { historyCsv, historyPaper, historyPdf, shiftHistory } from './history.ts';
import { noteCompared } from './correctionStore.ts';
import { closedShifts, deskTills, openShiftOf } from './store.ts';
import {
  correctTender,
  explainClosedShift,
  explainOpenDrawer,
  noteVariance,
  terminalTotals,
} from './variance.ts';

function shiftIn(request: Request): number {
  const id = idIn(request.params.id);
  if (id === 0) throw new Problem('no-shift', 'There is no such shift.');
  return id;
}

const dayOrNull = () => day().nullable().default(null);
const historyFilter = object({
  from: dayOrNull(),
  to: dayOrNull(),
  tillId: whole().nullable().default(null),
  staffId: whole().nullable().default(null),
});

export function drawerRoutes(house: House): Router {
  const router = Router();
  const tell = (tillId: number) => house.events.tell({ kind: 'drawer-changed', tillId });

  router.get('/', async (request, response) => {
    const person = personOf(request);
    const tillId = idIn(request.query.till) || person.tillId;
    response.json(await house.database.ask((sql) => drawerState(sql, person, tillId)));
  });

  // What is expected is told to a count that stands, and that is noted.
  router.post(
    '/comparisons',
    write(house, 'drawer.close', compareSchema, ({ sql, person, body }) =>
      compareCount(sql, person, body as Compare, house.clock.now()),
    ),
  );

  // Every till's drawer, for who counts several at a desk.
  router.get('/desk', async (request, response) => {
    personWith(request, 'drawer.close-any');
    const tills = await house.database.ask(deskTills);
    response.json(
      tills.map(({ shift, ...till }) => ({
        ...till,
        shift: shift && { ...shift, openedAt: new Date(shift.openedAt).toISOString() },
      })),
    );
  });

  router.get('/terminals', async (request, response) => {
    const person = personWith(request, 'drawer.close');
    const tillId = idIn(request.query.till) || person.tillId;
    mayCloseFor(person, tillId);
    const shift = await house.database.ask((sql) => openShiftOf(sql, tillId));
    response.json(shift ? await terminalTotals(house, shift.id, shift.openedAt) : []);
  });

  // Reads only, but for the note that somebody looked.
  router.post('/explanations', async (request, response) => {
    const person = personWith(request, 'drawer.close');
    const wanted = (await validate(explainSchema, request)) as Explain;
    const tillId = wanted.tillId ?? person.tillId;
    const found = await explainOpenDrawer(house, person, wanted);
    await house.database.write(async (sql) => {
      const shift = await openShiftOf(sql, tillId);
      const { staffId } = person;
      const counted = countedOf(wanted);
      if (shift)
        await noteCompared(sql, { staffId, tillId, shiftId: shift.id, counted, at: house.clock.now() });
    });
    response.json(found);
  });

  router.post(
    '/corrections',
    write(house, 'drawer.close', correctTenderSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(() => tell(person.tillId));
      await correctTender(sql, person, idempotencyKey(request), body, house.clock.now());
    }),
  );

  router.get('/people', async (request, response) => {
    const { staffId } = personWith(request, 'drawer.close');
    response.json(await house.database.ask((sql) => peopleToHandTo(sql, staffId)));
  });

  router.post(
    '/handovers',
    write(house, 'drawer.close', handOverSchema, async ({ sql, person, body, request, afterwards }) => {
      afterwards(() => {
        tell(person.tillId);
        house.printing.wake();
      });
      return handOver(sql, person, idempotencyKey(request), body as HandOver, house.clock.now());
    }),
  );

  router.get('/history{.:form}', async (request, response) => {
    personWith(request, 'shift.history');
    const filter = await validateQuery(historyFilter, request);
    const { form } = request.params;
    if (form === 'csv') {
      response.type('text/csv').attachment('shifts.csv');
      response.send(await house.database.ask((sql) => historyCsv(sql, filter)));
    } else if (form === 'pdf') {
      response.type('application/pdf');
      response.send(await house.database.ask((sql) => historyPdf(sql, filter)));
    } else if (form)
      await sendPaper(response, await house.database.ask((sql) => historyPaper(sql, filter)), form);
    else response.json(await house.database.ask((sql) => shiftHistory(sql, filter)));
  });

  router.get('/shifts/:id/explanations', async (request, response) => {
    personWith(request, 'shift.history');
    response.json(await house.database.ask((sql) => explainClosedShift(sql, shiftIn(request))));
  });

  router.get('/shifts/:id', async (request, response) => {
    personWith(request, 'drawer.close');
    response.json(await house.database.ask((sql) => closedShiftView(sql, shiftIn(request))));
  });

  router.post(
    '/shifts/:id/notes',
    write(house, 'shift.history', varianceNoteSchema, async ({ sql, person, body, request }) => {
      await noteVariance(sql, person, shiftIn(request), idempotencyKey(request), body, house.clock.now());
    }),
  );

  router.post(
    '/shifts',
    write(house, 'drawer.open', openDrawerSchema, async ({ sql, person, body, afterwards }) => {
      afterwards(() => tell(person.tillId));
      return openDrawer(sql, person, body as OpenDrawer, house.clock.now());
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
    const { pieces, revision, tillId } = await validate(countSheetSchema, request);
    response.json(
      await house.database.write((sql) =>
        saveCountSheet(sql, person, { pieces: pieces as Pieces, revision, tillId }),
      ),
    );
  });

  router.post(
    '/closings',
    write(house, 'drawer.close', closeShiftSchema, async ({ sql, person, body, afterwards }) => {
      afterwards(() => {
        tell((body as CloseShift).tillId ?? person.tillId);
        house.printing.wake();
        house.outbox.wake();
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
    const paper = await house.database.ask((sql) => reportPaper(sql, shiftIn(request)));
    await sendPaper(response, paper, request.params.form);
  });

  return router;
}
