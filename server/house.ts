import type { Logger } from 'pino';
import type { PrinterDriver } from '../devices/printer/driver.ts';
import type { PrinterStandIn } from '../devices/printer/standIn.ts';
import type { TerminalDriver } from '../devices/terminal/driver.ts';
import type { Backups } from './backups/backups.ts';
import type { Clock } from './clock.ts';
import type { SettingInWords } from '../core/setup/changes.ts';
import type { Database, Reader } from './db/database.ts';
import type { EventFeed } from './http/events.ts';
import type { Printing } from './journal/printing/printing.ts';
import type { Pricing } from './offers/pricing.ts';
import type { Tries } from './staff/tries.ts';
import type { HouseTerminals } from './payment/houseTerminals.ts';

/** Sends what is stored as waiting, oldest first, also after a restart. */
export interface Sender {
  wake(): void;
  stop(): Promise<void>;
}

/** What every room of the server works with. */
export interface House {
  database: Database;
  clock: Clock;
  log: Logger;
  events: EventFeed;
  /** Receipt printers, by the kind that a till has. */
  printers: { 'stand-in': PrinterStandIn; network: PrinterDriver };
  printing: Printing;
  backups: Backups;
  pricing: Pricing;
  /** Everything that Setup has set, in words: what a change has changed is read off it. */
  settingsInWords: (sql: Reader, at: Date) => Promise<SettingInWords[]>;
  /** Card terminals, and the watch over what they have been asked. */
  terminal: TerminalDriver;
  terminals: HouseTerminals;
  /** Mail and text messages that wait to go out. */
  outbox: Sender;
  /** Parcels that the carrier is to be asked for. */
  parcels: Sender;
  /** What channels are to be told of their orders. */
  channels: Sender;
  /** What is passed on to partners, and what they say. */
  relaying: Sender;
  /** What happens to customers once a day. */
  nights: Sender;
  /** Takes in prices that count from a day on. */
  priceDays: Sender;
  /** Lists of customers that are being imported. */
  imports: Sender;
  /** Wrong tries at PINs and numbers. */
  tries: Tries;
  /** The installation's own secret, with which PINs are looked up. */
  pinKey: string;
  /** PINs to show on the sign-in page; there are none but with demo data. */
  demoPins: { name: string; role: string; pin: string }[];
}
