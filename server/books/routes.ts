import { Router } from 'express';
import { booksQuerySchema } from '../../contract/books.ts';
import { businessDate } from '../clock.ts';
import type { House } from '../house.ts';
import { personWith } from '../http/session.ts';
import { readShop } from '../shop/store.ts';
import { booksCsv, booksJournal, ledgerPage, trialBalance } from './books.ts';
import { daySummary } from './booksStore.ts';

/** The shop's books: accounts, events, days, exports. */
export function booksRoutes({ database, clock }: House): Router {
  const router = Router();

  router.get('/balance', async (request, response) => {
    personWith(request, 'books.see');
    const query = await booksQuerySchema.validate(request.query, { stripUnknown: true });
    response.json(await database.ask((sql) => trialBalance(sql, query)));
  });

  router.get('/events', async (request, response) => {
    personWith(request, 'books.see');
    const query = await booksQuerySchema.validate(request.query, { stripUnknown: true });
    response.json(await database.ask((sql) => ledgerPage(sql, query)));
  });

  router.get('/day', async (request, response) => {
    personWith(request, 'books.see');
    const { from } = await booksQuerySchema.validate(request.query, { stripUnknown: true });
    response.json(
      await database.ask(async (sql) =>
        daySummary(sql, from ?? businessDate(clock.now(), (await readShop(sql)).timezone)),
      ),
    );
  });

  router.get('/books.csv', async (request, response) => {
    personWith(request, 'books.see');
    const query = await booksQuerySchema.validate(request.query, { stripUnknown: true });
    response.type('text/csv').attachment('books.csv');
    response.send(await booksCsv((work) => database.ask(work), query));
  });

  router.get('/books.journal', async (request, response) => {
    personWith(request, 'books.see');
    const query = await booksQuerySchema.validate(request.query, { stripUnknown: true });
    response.attachment('books.journal').type('text/plain');
    response.send(await booksJournal((work) => database.ask(work), query));
  });

  return router;
}
