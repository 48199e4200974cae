import type { CarrierDriver } from '../../devices/carrier/driver.ts';
import { sendAgainAt } from '../../core/journal/sendAgain.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { instant, momentOf } from '../clock.ts';
import type { House, Sender } from '../house.ts';
import {
  dueParcels,
  markLabelled,
  nextParcel,
  noteParcelTrouble,
  type WaitingParcel,
} from '../promises/orderStore.ts';
import { addEvent, findPromise } from '../promises/store.ts';
import { startSender } from '../sender.ts';

const SOONEST_MS = 2_000;
const HOUR_MS = 3_600_000;

/** Asks the carrier for the label of each parcel that is stored as waiting, also after a restart, until it answers. */
export function startParcels(
  { database, clock, log, events }: Pick<House, 'database' | 'clock' | 'log' | 'events'>,
  carrier: CarrierDriver,
): Sender {
  async function register({ id, promiseId, weight }: WaitingParcel): Promise<void> {
    const promise = await database.ask((sql) => findPromise(sql, promiseId));
    if (!promise?.ship) throw new Error('The order is shipped no more.');
    const { recipient: name, street, postcode, city, phone } = promise.ship;
    const tracking = await carrier.register({
      reference: id,
      to: { name, street, postcode, city, phone },
      weight,
    });
    await database.write(async (sql) => {
      await markLabelled(sql, id, tracking);
      await addEvent(sql, promiseId, {
        at: clock.now(),
        staffId: promise.staffId,
        what: 'Label made',
        words: tracking,
      });
    });
    log.debug({ order: promiseNumber(promise.kind, promise.count) }, 'a parcel has its number');
  }

  async function registerOne(parcel: WaitingParcel): Promise<void> {
    try {
      await register(parcel);
    } catch (error) {
      const words = error instanceof Error ? error.message : 'The carrier does not answer.';
      log.warn({ err: error, parcel: parcel.id }, 'the carrier gave no number');
      const now = clock.now();
      const again =
        sendAgainAt(instant(parcel.askedAt).toJSDate(), now, parcel.tries + 1) ??
        new Date(now.getTime() + HOUR_MS);
      await database.write((sql) => noteParcelTrouble(sql, parcel.id, words, again));
    }
    events.tell({ kind: 'promises-changed' });
  }

  return startSender(
    { clock, log },
    {
      what: 'asking the carrier',
      soonestMs: SOONEST_MS,
      nextDue: async () => momentOf(await database.ask(nextParcel)),
      async sendDue(stopped) {
        for (const parcel of await database.ask((sql) => dueParcels(sql, clock.now()))) {
          if (stopped()) return;
          await registerOne(parcel);
        }
      },
    },
  );
}
