import { Router } from 'express';
import {
  printerSchema,
  settleJobSchema,
  type PrinterFacts,
  type TillPrinter,
} from '../../../contract/printer.ts';
import { receiptNumber } from '../../../core/journal/receiptNumber.ts';
import type { House } from '../../house.ts';
import { idIn } from '../../http/address.ts';
import { Problem } from '../../http/problem.ts';
import { personOf, personWith } from '../../http/session.ts';
import { write } from '../../http/write.ts';
import { lastChange } from '../../shop/changeStore.ts';
import { change } from '../../shop/changes.ts';
import { readTill } from '../../shop/store.ts';
import { choosePrinter, printerOf, printersOfTills, tillIs } from './printerStore.ts';
import { addPrintJob, openJobs, settleJob, type OpenJob } from './store.ts';

const NEWEST = 12;

/** What papers are called at the counter. */
const PAPERS: Record<OpenJob['kind'], string> = {
  receipt: 'Receipt',
  copy: 'Copy of receipt',
  'gift-receipt': 'Gift receipt',
  'shift-report': 'Shift report',
  'hold-ticket': 'Ticket of a held basket',
  layaway: 'Layaway paper',
  order: 'Order paper',
  'pick-list': 'Pick list',
  'packing-slip': 'Packing slip',
  relay: 'Relay paper',
  'drawer-opening': 'Drawer opening',
  'cash-slip': 'Cash slip',
  'drawer-only': 'Opening the drawer',
  'gift-card': 'Gift card',
  'void-slip': 'Void slip of',
  'handover-slip': 'Handover slip',
  'test-page': 'Test page',
};

const wordsOf = ({ kind, saleNumber, saleTill }: OpenJob): string =>
  saleNumber === null || saleTill === null
    ? PAPERS[kind]
    : `${PAPERS[kind]} ${receiptNumber(saleTill, saleNumber)}`;

/** The printer of a till: how it is, what waits, and what only the person in front of it can say. */
export function printerRoutes(house: House): Router {
  const { database, printers, printing, events, clock } = house;
  const router = Router();

  router.get('/papers', async (request, response) => {
    const { tillId } = personOf(request);
    const { number } = await database.ask((sql) => readTill(sql, tillId));
    response.json(await printers['stand-in'].papers(`till-${number}`, NEWEST));
  });

  router.get('/state', async (request, response) => {
    const { tillId } = personOf(request);
    const facts: PrinterFacts = await database.ask(async (sql) => ({
      setup: await printerOf(sql, tillId),
      trouble: printing.troubleOf(tillId) ?? null,
      open: (await openJobs(sql, tillId)).map((job) => ({
        id: job.id,
        state: job.state,
        words: wordsOf(job),
        askedAt: job.askedAt,
      })),
    }));
    response.json(facts);
  });

  router.post(
    '/jobs/:id',
    write(house, 'sell', settleJobSchema, async ({ sql, person, body, request, afterwards }) => {
      const { tillId } = person;
      const jobId = idIn(request.params.id);
      if (!(await settleJob(sql, { tillId, jobId, as: body.as, at: clock.now() }))) {
        throw new Problem('paper-settled', 'This paper is settled already.');
      }
      afterwards(() => {
        events.tell({ kind: 'printer-changed', tillId });
        printing.wake();
      });
    }),
  );

  router.get('/tills', async (request, response) => {
    personWith(request, 'shop.set-up');
    const tills: TillPrinter[] = await database.ask(async (sql) => {
      const seen = await lastChange(sql);
      return (await printersOfTills(sql)).map((till) => ({
        ...till,
        trouble: printing.troubleOf(till.tillId) ?? null,
        seen,
      }));
    });
    response.json(tills);
  });

  router.put(
    '/tills/:id',
    change(house, printerSchema, async ({ sql, body, request, afterwards }) => {
      const tillId = idIn(request.params.id);
      await choosePrinter(sql, tillId, body);
      afterwards(() => {
        events.tell({ kind: 'printer-changed', tillId });
        printing.wake();
      });
    }),
  );

  router.post(
    '/tills/:id/test',
    write(house, 'shop.set-up', null, async ({ sql, request, afterwards }) => {
      const tillId = idIn(request.params.id);
      await tillIs(sql, tillId);
      await addPrintJob(sql, { tillId, kind: 'test-page', openDrawer: true, at: clock.now() });
      afterwards(() => printing.wake());
    }),
  );
  return router;
}
