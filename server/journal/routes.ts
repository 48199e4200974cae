import { Router, type Request } from 'express';
import { string } from '../../contract/yup.ts';
import { journalQuerySchema, saleNoteSchema, voidSaleSchema } from '../../contract/journal.ts';
import { sendReceiptSchema } from '../../contract/payment.ts';
import { refundPartsSchema } from '../../contract/returns.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { idempotencyKey, validate, validateQuery, write } from '../http/write.ts';
import { sendPaper } from './printing/sendPaper.ts';
import { addPrintJob } from './printing/store.ts';
import { addSaleNote } from './store.ts';
import { journalChoices } from './searchStore.ts';
import { quote, returnable, returnFacts, withoutReceipt } from './returns/service.ts';
import { voidSale } from './voids/service.ts';
import { journalPage, journalSale, receiptPaper, sendReceipt } from './service.ts';

const uuid = string().uuid().required();

function saleId(request: Request): string {
  const { id } = request.params;
  if (!uuid.isValidSync(id)) throw new Problem('no-sale', 'There is no such sale.');
  return id;
}

export function journalRoutes(house: House): Router {
  const router = Router();
  const { database, clock } = house;

  router.get('/sales', async (request, response) => {
    personWith(request, 'journal.see');
    const query = await validateQuery(journalQuerySchema, request);
    response.json(await database.ask((sql) => journalPage(sql, query)));
  });

  router.get('/choices', async (request, response) => {
    personWith(request, 'journal.see');
    response.json(await database.ask(journalChoices));
  });

  // What can come back from a sale, and what would be refunded for it.
  router.get('/sales/:id/returnable', async (request, response) => {
    personWith(request, 'return.take');
    response.json(returnable(await database.ask((sql) => returnFacts(sql, saleId(request), clock.now()))));
  });
  router.post('/sales/:id/quotes', async (request, response) => {
    personWith(request, 'return.take');
    const { parts } = await validate(refundPartsSchema, request);
    response.json(quote(await database.ask((sql) => returnFacts(sql, saleId(request), clock.now())), parts));
  });
  router.get('/without-receipt/:customerId', async (request, response) => {
    personWith(request, 'sell');
    const customerId = idIn(request.params.customerId);
    response.json(await database.ask((sql) => withoutReceipt(sql, customerId, clock.now())));
  });

  // Asked again, it goes on where it stands.
  router.post('/sales/:id/void', async (request, response) => {
    const person = personWith(request, 'sell');
    idempotencyKey(request);
    response.json(await voidSale(house, person, saleId(request), await validate(voidSaleSchema, request)));
  });

  router.get('/sales/:id', async (request, response) => {
    const { tillId } = personWith(request, 'journal.see');
    response.json(await database.ask((sql) => journalSale(sql, saleId(request), tillId, clock.now())));
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

  router.post(
    '/sales/:id/notes',
    write(house, 'sell', saleNoteSchema, async ({ sql, person, request, body }) => {
      const id = saleId(request);
      await receiptPaper(sql, id);
      await addSaleNote(sql, { saleId: id, note: body.note, staffId: person.staffId, at: clock.now() });
    }),
  );

  // By print, mail or text, or once more as a gift receipt.
  router.post(
    '/sales/:id/sent',
    write(house, 'journal.see', sendReceiptSchema, async ({ sql, person, request, body, afterwards }) => {
      const customerId = await sendReceipt(sql, person, saleId(request), body, clock.now());
      afterwards(() => {
        house.printing.wake();
        house.outbox.wake();
        if (customerId !== null) house.events.tell({ kind: 'people-changed', customerId });
      });
    }),
  );

  return router;
}
