import { join } from 'node:path';
import { pino, type Logger } from 'pino';
import { carrierStandIn } from '../devices/carrier/standIn.ts';
import { listening } from '../devices/listening.ts';
import { postStandIn } from '../devices/post/standIn.ts';
import { networkPrinter } from '../devices/printer/network.ts';
import { printerStandIn } from '../devices/printer/standIn.ts';
import { serveHub } from '../devices/relayHub/page.ts';
import { hubStandIn } from '../devices/relayHub/standIn.ts';
import { terminalStandIn } from '../devices/terminal/standIn.ts';
import { startWebShop, type FirstOrder } from '../devices/webShop/standIn.ts';
import { writeFiguresAs } from '../core/locale.ts';
import { createApp } from './app.ts';
import { backUpBeforeMigrating, startBackups } from './backups/backups.ts';
import { clockOf } from './clock.ts';
import type { Database } from './db/database.ts';
import { openDatabase } from './db/open.ts';
import { refoldWords } from './people/foldedWords.ts';
import { importedGoods } from './goods/importedGoods.ts';
import { startImports } from './imports/importing.ts';
import { importedCustomers } from './people/importedCustomers.ts';
import { startNights } from './people/nights.ts';
import type { House } from './house.ts';
import { eventFeed } from './http/events.ts';
import { editionOf } from './http/pages.ts';
import { forgetOldAnswers } from './http/write.ts';
import { makeItemWords } from './goods/itemWords.ts';
import { startPriceDays } from './goods/nights.ts';
import { startOutbox } from './journal/outbox/outbox.ts';
import { startPrinting } from './journal/printing/printing.ts';
import { startPricing } from './offers/pricing.ts';
import { printedPaper, sentPaper, sentSheets } from './papers.ts';
import { finishWhatIsCovered, watchTerminals } from './payment/terminals.ts';
import { readPinKey } from './staff/pinKeyFile.ts';
import { countTries } from './staff/tries.ts';
import type { Settings } from './settings.ts';
import { settingsInWords } from './setup/settingsInWords.ts';
import { findShop } from './shop/store.ts';
import { startChannelMessages } from './waiting/channelMessages.ts';
import { startRelaying } from './waiting/relaying.ts';
import { startParcels } from './waiting/parcels.ts';

export interface Serving {
  url: string;
  /** Where the web shop of its own is, if there is one. */
  webShop: string | undefined;
  /** Where one is the partner at the hub of its own, if that is served. */
  hub: string | undefined;
  house: House;
  /** Answers what has been asked, then closes everything. */
  stop(): Promise<void>;
}

/** How long requests that are being answered may take when the server stops. */
const LAST_ANSWERS_MS = 1500;
const LOOK_FOR_IDLE_MS = 50;

export interface ServeOptions {
  webFolder: string;
  onStep?: (what: string) => void;
  /** Lays down data in a new database before it serves. */
  fill?: (database: Database, at: Date) => Promise<House['demoPins']>;
  /** What is ordered at the web shop of its own before anybody else orders there. */
  webOrders?: readonly FirstOrder[];
  /** Waited for before anything is served: the pages may still be being built. */
  ready?: Promise<void>;
  log?: Logger;
  /** How long a terminal may take, in milliseconds. */
  patience?: number;
  /** Milliseconds that have gone by since some moment, where tests make time pass. */
  elapsed?: () => number;
  /** How long somebody waits whose requests were refused again and again, in milliseconds. */
  refusedWait?: number;
}

/** Opens the database, fills it where asked, and serves. */
export async function serve(settings: Settings, options: ServeOptions): Promise<Serving> {
  const { webFolder, onStep = () => {}, fill } = options;
  const log = options.log ?? pino({ level: process.env.MONDREL_LOG ?? 'warn' });
  const clock = clockOf(settings.fixedNow);
  const onBroken = (message: string) => {
    log.fatal(
      { message },
      'The database can no longer be written. Stopping, so that nothing is lost unnoticed.',
    );
    process.exit(1);
  };
  const database = await openDatabase(settings, onStep, onBroken, backUpBeforeMigrating(settings, clock));
  const demoPins = (await fill?.(database, clock.now())) ?? [];
  const shop = await database.ask(findShop);
  if (shop) writeFiguresAs(shop.locale);
  await refoldWords(database);
  await makeItemWords(database);
  await forgetOldAnswers({ database, clock });
  const parts = {
    database,
    clock,
    log,
    events: eventFeed(editionOf(webFolder)),
    printers: {
      'stand-in': printerStandIn(join(settings.dataFolder, 'printer')),
      network: networkPrinter(),
    },
    demoPins,
    pricing: startPricing(),
    settingsInWords,
    tries: countTries(database, options.elapsed),
    pinKey: await readPinKey(database, settings.dataFolder),
  };
  const terminal = terminalStandIn(join(settings.dataFolder, 'terminals'), () => clock.now());
  const hub = hubStandIn(join(settings.dataFolder, 'relay-hub'), () => clock.now());
  const outbox = startOutbox(
    parts,
    postStandIn(join(settings.dataFolder, 'outbox'), settings.smtp),
    sentPaper,
    sentSheets,
  );
  const working = {
    ...parts,
    terminal,
    printing: startPrinting(parts, printedPaper),
    backups: startBackups(parts, settings),
    outbox,
    channels: startChannelMessages(parts),
    relaying: startRelaying(parts, hub),
    nights: startNights({ ...parts, outbox }),
    priceDays: startPriceDays(parts),
    imports: startImports(parts, { customers: importedCustomers, goods: importedGoods }),
    parcels: startParcels(parts, carrierStandIn(join(settings.dataFolder, 'carrier'))),
  };
  const house: House = { ...working, terminals: watchTerminals(working, terminal, options.patience) };

  await options.ready;
  const { server, url } = await listening(
    createApp(house, webFolder, {
      ...settings,
      ...(options.refusedWait === undefined ? {} : { refusedWait: options.refusedWait }),
    }),
    settings.port,
  );
  house.printing.wake();
  house.outbox.wake();
  house.parcels.wake();
  house.channels.wake();
  house.relaying.wake();
  house.nights.wake();
  house.priceDays.wake();
  house.imports.wake();
  await finishWhatIsCovered(house);
  house.terminals.wake();
  const webShop =
    settings.webShop &&
    (await startWebShop({
      ...settings.webShop,
      folder: join(settings.dataFolder, 'web-shop'),
      shop: url,
      first: options.webOrders ?? [],
    }));
  const hubPage = settings.hubPort === undefined ? undefined : await serveHub(hub, settings.hubPort);
  return {
    url,
    webShop: webShop?.url,
    hub: hubPage?.url,
    house,
    async stop() {
      await webShop?.stop();
      await hubPage?.stop();
      house.events.close();
      let idle: NodeJS.Timeout | undefined;
      await new Promise((done) => {
        server.close(done);
        setTimeout(() => server.closeAllConnections(), LAST_ANSWERS_MS).unref();
        // A connection is idle once its last answer is out.
        idle = setInterval(() => server.closeIdleConnections(), LOOK_FOR_IDLE_MS);
      });
      clearInterval(idle);
      await house.terminals.stop();
      await house.outbox.stop();
      await house.parcels.stop();
      await house.channels.stop();
      await house.relaying.stop();
      await house.nights.stop();
      await house.priceDays.stop();
      await house.imports.stop();
      await house.printing.stop();
      await house.pricing.stop();
      await house.backups.stop();
      await database.close();
    },
  };
}
