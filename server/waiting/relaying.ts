import { sendAgainAt } from '../../core/journal/sendAgain.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import type { HubIncoming, RelayHub } from '../../devices/relayHub/driver.ts';
import { instant, momentOf } from '../clock.ts';
import { takeLocks } from '../db/locks.ts';
import type { House, Sender } from '../house.ts';
import * as relays from '../promises/relayStore.ts';
import { startSender } from '../sender.ts';
import { readShop } from '../shop/store.ts';
import { takePartnerOrder } from './partnerOrders.ts';
import { hearPartner } from './relays.ts';

const SOONEST_MS = 2_000;
const HOUR_MS = 3_600_000;

/**
 * Gives the hub what is stored as waiting, and takes in what partners have said; also after a restart. What could not
 * go out is tried again.
 */
export function startRelaying(
  { database, clock, log, events }: Pick<House, 'database' | 'clock' | 'log' | 'events'>,
  hub: RelayHub,
): Sender {
  const again = (madeAt: string, tries: number): Date => {
    const now = clock.now();
    return sendAgainAt(instant(madeAt).toJSDate(), now, tries + 1) ?? new Date(now.getTime() + HOUR_MS);
  };

  async function send(relay: relays.WaitingRelay): Promise<void> {
    const { id, promiseId, count, madeAt, tries, ...order } = relay;
    const number = promiseNumber('relay', count);
    const wanted = await database.write(async (sql) => {
      await takeLocks(sql, { promises: [promiseId] });
      return relays.noteHubAsked(sql, id);
    });
    if (!wanted) return;
    try {
      const { name } = await database.ask(readShop);
      await hub.send({ reference: id, number, from: name, ...order });
      await database.write(async (sql) => {
        await takeLocks(sql, { promises: [promiseId] });
        // It may have been given up, or answered, meanwhile.
        if ((await relays.findTry(sql, id))?.state === 'waiting')
          await relays.putRelayState(sql, id, 'sent', clock.now());
      });
    } catch (error) {
      const words = error instanceof Error ? error.message : 'The hub does not answer.';
      log.warn({ err: error, relay: number }, 'a relay did not go out');
      await database.write((sql) => relays.noteRelayTrouble(sql, id, words, again(madeAt, tries)));
    }
  }

  async function say(reply: relays.WaitingReply): Promise<void> {
    const { id, reference, kind, words, at, tries } = reply;
    try {
      await hub.say({ id: `${reference}-${id}`, reference, kind, words });
      await database.write((sql) => relays.markReplySent(sql, id, clock.now()));
    } catch (error) {
      log.warn({ err: error }, 'something said to a partner did not go out');
      await database.write((sql) => relays.noteReplyTrouble(sql, id, again(at, tries)));
    }
  }

  /** An order could not be taken in: it is looked for again. */
  let missed = false;
  /** Takes an order in that a partner passes on; one that cannot be taken at all is refused at once. */
  async function takeIn(order: HubIncoming): Promise<void> {
    const { reference, number } = order;
    try {
      const words = await database.write((sql) => takePartnerOrder(sql, order, clock.now()));
      if (words !== null) await hub.say({ id: `${reference}-refused`, reference, kind: 'refused', words });
      // Only what is kept here, or was answered, is told the hub: what comes twice is taken once.
      await hub.orderTaken(reference);
    } catch (error) {
      missed = true;
      log.warn({ err: error, number }, 'an order of a partner was not taken in');
    }
  }

  const sender = startSender(
    { clock, log },
    {
      what: 'passing orders on',
      soonestMs: SOONEST_MS,
      nextDue: async () => (missed ? clock.now() : momentOf(await database.ask(relays.nextRelay))),
      async sendDue(stopped) {
        const now = clock.now();
        // Most of the time nothing is due: then one question is enough.
        const next = await database.ask(relays.nextRelay);
        const isDue = next !== null && instant(next).toMillis() <= now.getTime();
        const due = isDue ? await database.ask((sql) => relays.dueRelays(sql, now)) : [];
        const replies = isDue ? await database.ask((sql) => relays.dueReplies(sql, now)) : [];
        missed = false;
        const orders = await hub.orders();
        for (const order of orders) if (!stopped()) await takeIn(order);
        const heard = await hub.messages();
        for (const relay of due) if (!stopped()) await send(relay);
        for (const reply of replies) if (!stopped()) await say(reply);
        for (const message of heard) {
          if (stopped()) return;
          await database.write((sql) => hearPartner(sql, message, clock.now()));
          // Only what is kept here is told the hub: what comes twice is taken once.
          await hub.taken(message.id);
        }
        if (due.length + replies.length + orders.length + heard.length > 0)
          events.tell({ kind: 'relays-changed' });
        if (orders.length + heard.length > 0) events.tell({ kind: 'promises-changed' });
      },
    },
  );
  hub.hear(() => sender.wake());
  events.hear(({ kind }) => {
    if (kind === 'promises-changed') sender.wake();
  });
  return sender;
}
