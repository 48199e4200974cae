import { Router, type Request } from 'express';
import { string } from 'yup';
import { sendReceiptSchema } from '../../contract/payment.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { write } from '../http/write.ts';
import { sendPaper } from './printing/sendPaper.ts';
import { addPrintJob } from './printing/store.ts';
import { journalPage, journalSale, receiptPaper, sendReceipt } from './service.ts';

const uuid = string().uuid().required();
const day = string().matches(/^\d{4}-\d{2}-\d{2}$/, 'A date looks like 2026-03-02.');

function saleId(request: Request): string {
  const { id } = request.params;
  if (!uuid.isValidSync(id)) throw new Problem(404, 'no-sale', 'There is no such sale.');
  return id;
}

export function journalRoutes(house: House): Router {
  const router = Router();
  const { database, clock } = house;

  router.get('/sales', async (request, response) => {
    personWith(request, 'journal.see');
    const date = await day.validate(request.query.date);
    const find = String(request.query.find ?? '').trim();
    const page = Math.max(0, Math.trunc(Number(request.query.page ?? 0)) || 0);
    response.json(await database.ask((sql) => journalPage(sql, { date, find, page }, clock.now())));
  });

  router.get('/sales/:id', async (request, response) => {
    personWith(request, 'journal.see');
    response.json(await database.ask((sql) => journalSale(sql, saleId(request))));
  });

  router.get('/sales/:id/receipt{.:form}', async (request, response) => {
    personWith(request, 'journal.see');
    const paper = await database.ask((sql) => receiptPaper(sql, saleId(request)));
    await sendPaper(response, paper, request.params.form);
  });

  router.post(
    '/sales/:id/reprints',
    write(house, 'journal.see', null, async ({ sql, person, request, afterwards }) => {
      const id = saleId(request);
      await receiptPaper(sql, id);
      await addPrintJob(sql, { tillId: person.tillId, kind: 'copy', saleId: id, at: clock.now() });
      afterwards(() => house.printing.wake());
    }),
  );

  // By print, mail or text, or once more as a gift receipt.
  router.post(
    '/sales/:id/sent',
    write(house, 'journal.see', sendReceiptSchema, async ({ sql, person, request, body, afterwards }) => {
      await sendReceipt(sql, person, saleId(request), body, clock.now());
      afterwards(() => {
        house.printing.wake();
        house.outbox.wake();
      });
    }),
  );

  return router;
}
