import { Router, type Request } from 'express';
import { figuresSchema, reportSchema, type CheckAnswer } from '../../contract/figures.ts';
import { REPORTS, reportOf, type ReportName } from '../../core/figures/reports.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { validateQuery } from '../http/write.ts';
import { CHECKS, verify } from '../books/verify.ts';
import { reportCsv, reportPage, reportPdf } from './report.ts';
import { choices } from './reportStore.ts';
import { ties } from './ties.ts';
import { todayFigures, trend } from './today.ts';

const isReport = (name: string): name is ReportName => Object.hasOwn(REPORTS, name);

/** What the shop did: today, beside other days, in reports; and whether it ties. */
export function figuresRoutes({ database, clock }: House): Router {
  const router = Router();
  const mine = (request: Request) => {
    const person = personWith(request, 'figures.see');
    return { person, costs: person.rights.includes('goods.cost') };
  };
  /** @throws Problem 404 for a name that is none, 403 for one that shows costs to somebody who may not see them */
  const named = (request: Request): { name: ReportName; costs: boolean } => {
    const { costs } = mine(request);
    const name = String(request.params.name);
    if (!isReport(name)) throw new Problem('not-found', 'There is no such report.');
    if (reportOf(name).costs && !costs) throw new Problem('no-right', 'This report shows what goods cost.');
    return { name, costs };
  };

  router.get('/choices', async (request, response) => {
    mine(request);
    response.json(await database.ask(choices));
  });

  router.get('/today', async (request, response) => {
    const { costs } = mine(request);
    const place = idIn(request.query.place);
    response.json(await database.ask((sql) => todayFigures(sql, clock.now(), place, costs)));
  });

  router.get('/trend', async (request, response) => {
    mine(request);
    const query = await validateQuery(figuresSchema, request);
    response.json(await database.ask((sql) => trend(sql, query)));
  });

  router.get('/ties', async (request, response) => {
    mine(request);
    const query = await validateQuery(figuresSchema, request);
    response.json(await database.ask((sql) => ties(sql, query)));
  });

  // One after the other: all of them take minutes in a large shop, and whoever looks wants to see how far they are.
  router.get('/checks/:number', async (request, response) => {
    mine(request);
    const check = CHECKS[idIn(request.params.number) - 1];
    if (!check) throw new Problem('not-found', 'There is no such check.');
    const differences = await database.ask((sql) => verify(sql, [check]));
    response.json({ differences, of: CHECKS.length } satisfies CheckAnswer);
  });

  router.get('/reports/:name.csv', async (request, response) => {
    const { name, costs } = named(request);
    const query = await validateQuery(reportSchema, request);
    const content = await database.ask((sql) => reportCsv(sql, name, query, costs));
    response.type('text/csv').attachment(`${name}-${query.from}-${query.to}.csv`).send(content);
  });

  router.get('/reports/:name.pdf', async (request, response) => {
    const { name, costs } = named(request);
    const query = await validateQuery(reportSchema, request);
    response.type('pdf').send(await database.ask((sql) => reportPdf(sql, name, query, costs)));
  });

  router.get('/reports/:name', async (request, response) => {
    const { name, costs } = named(request);
    const query = await validateQuery(reportSchema, request);
    response.json(await database.ask((sql) => reportPage(sql, name, query, costs)));
  });

  return router;
}
