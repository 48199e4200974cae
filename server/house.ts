import type { Logger } from 'pino';
import type { PrinterDriver } from '../devices/printer/driver.ts';
import type { Clock } from './clock.ts';
import type { Database } from './db/database.ts';
import type { EventFeed } from './http/events.ts';
import type { Printing } from './journal/printing/printing.ts';

/** What every room of the server works with. */
export interface House {
  database: Database;
  clock: Clock;
  log: Logger;
  events: EventFeed;
  printer: PrinterDriver;
  printing: Printing;
  /** PINs to show on the sign-in page; there are none but with demo data. */
  demoPins: { name: string; role: string; pin: string }[];
}
