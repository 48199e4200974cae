import compression from 'compression';
import cookieParser from 'cookie-parser';
import express, { type Express, type Router } from 'express';
import { pinoHttp } from 'pino-http';
import { backupRoutes } from './backups/routes.ts';
import { countsRoutes } from './counts/routes.ts';
import { cardPaymentRoutes } from './cardPayments/routes.ts';
import { giftCardRoutes } from './giftCards/routes.ts';
import { counterRoutes } from './counter/routes.ts';
import { drawerRoutes } from './drawer/routes.ts';
import { goodsRoutes } from './goods/routes.ts';
import type { House } from './house.ts';
import { readBody } from './http/body.ts';
import { editionOf, webPages } from './http/pages.ts';
import { notFound, problemAnswers } from './http/problem.ts';
import { REFUSED_WAIT_MS, slowRefused } from './http/slowRefused.ts';
import { securityHeaders } from './http/security.ts';
import {
  namedHostsOnly,
  personOf,
  plausibleAddress,
  recognisePerson,
  sameOriginOnly,
} from './http/session.ts';
import { journalRoutes } from './journal/routes.ts';
import { printerRoutes } from './journal/printing/routes.ts';
import { figuresRoutes } from './figures/routes.ts';
import { booksRoutes } from './books/routes.ts';
import { offerRoutes } from './offers/routes.ts';
import { deviceRoutes } from './payment/deviceRoutes.ts';
import { paymentRoutes } from './payment/routes.ts';
import { accountRoutes } from './people/accountRoutes.ts';
import { importRoutes } from './imports/routes.ts';
import { peopleRoutes } from './people/routes.ts';
import { supplyRoutes } from './supply/routes.ts';
import { transfersRoutes } from './transfers/routes.ts';
import { setupRoutes } from './setup/routes.ts';
import { staffRoutes } from './staff/routes.ts';
import { findSession } from './staff/service.ts';
import { channelRoutes } from './waiting/channelRoutes.ts';
import { calendarRoutes } from './waiting/calendar.ts';
import { waitingRoutes } from './waiting/routes.ts';

/** How the application is reached. */
export interface Reached {
  hosts?: readonly string[];
  proxy?: string | number | undefined;
  /** How long somebody waits whose requests were refused again and again, in milliseconds. */
  refusedWait?: number;
}

/** Every room's routes, below `/api`. */
export const roomRoutes = (house: House): [address: string, routes: Router][] => [
  ['/accounts', accountRoutes(house)],
  ['/backups', backupRoutes(house)],
  ['/counter', counterRoutes(house)],
  ['/drawer', drawerRoutes(house)],
  ['/goods/imports', importRoutes(house, 'goods', 'goods.import')],
  ['/goods', goodsRoutes(house)],
  ['/journal', journalRoutes(house)],
  ['/figures', figuresRoutes(house)],
  ['/books', booksRoutes(house)],
  ['/offers', offerRoutes(house)],
  ['/devices', deviceRoutes(house)],
  ['/card-payments', cardPaymentRoutes(house)],
  ['/gift-cards', giftCardRoutes(house)],
  ['/payment', paymentRoutes(house)],
  ['/people/imports', importRoutes(house, 'customers', 'people.manage')],
  ['/people', peopleRoutes(house)],
  ['/supply', supplyRoutes(house)],
  ['/transfers', transfersRoutes(house)],
  ['/counts', countsRoutes(house)],
  ['/printer', printerRoutes(house)],
  ['/setup', setupRoutes(house)],
  ['/staff', staffRoutes(house)],
  ['/waiting', waitingRoutes(house)],
];

/** The application: every room's routes below `/api`, and the pages. @param webFolder the built pages */
export function createApp(
  house: House,
  webFolder: string,
  { hosts, proxy, refusedWait = REFUSED_WAIT_MS }: Reached = {},
): Express {
  const app = express();
  app.disable('x-powered-by');
  if (proxy !== undefined) app.set('trust proxy', proxy);
  app.use(namedHostsOnly(hosts ?? []));
  app.use(
    pinoHttp({
      logger: house.log,
      // What is logged of a request names no person and holds nothing that was typed.
      serializers: {
        req: ({ method, url }: { method: string; url: string }) => ({
          method,
          // The address of the calendar is a secret.
          path: url.split('?')[0]?.replace(/(\/calendar\/).*/, '$1…'),
        }),
        res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
      },
      customLogLevel: (_request, response, error) =>
        error || response.statusCode >= 500 ? 'error' : 'debug',
    }),
  );
  app.use(securityHeaders());
  app.use(compression());

  const api = express.Router();
  api.use((_request, response, next) => {
    response.set('cache-control', 'no-store');
    next();
  });
  api.get('/health', (_request, response) => {
    response.json({ status: 'ok', engine: house.database.engine });
  });
  api.use('/calendar', calendarRoutes(house));
  api.use('/channel', slowRefused(refusedWait), readBody, channelRoutes(house), notFound);
  api.use(
    sameOriginOnly,
    plausibleAddress,
    cookieParser(),
    recognisePerson((token) => findSession(house, token)),
  );
  api.use(slowRefused(refusedWait), readBody);
  api.get('/events', (request, response) => {
    house.events.listen(personOf(request).sessionId, response);
  });
  for (const [address, routes] of roomRoutes(house)) api.use(address, routes);
  api.use(notFound);
  app.use('/api', api);

  app.use(webPages(webFolder, editionOf(webFolder)));
  app.use(problemAnswers(house.log));
  return app;
}
