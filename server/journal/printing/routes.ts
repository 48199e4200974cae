import { Router } from 'express';
import type { PrinterStandIn } from '../../../devices/printer/standIn.ts';
import type { House } from '../../house.ts';
import { personOf } from '../../http/session.ts';
import { readTill } from '../../setup/store.ts';

const NEWEST = 12;

/** The papers of this till's printer, where the printer is the stand-in. */
export function printerRoutes({ database, printer }: House): Router {
  const router = Router();
  router.get('/papers', async (request, response) => {
    const { tillId } = personOf(request);
    const { number } = await database.ask((sql) => readTill(sql, tillId));
    response.json(isStandIn(printer) ? await printer.papers(`till-${number}`, NEWEST) : []);
  });
  return router;
}

function isStandIn(printer: House['printer']): printer is PrinterStandIn {
  return 'papers' in printer;
}
