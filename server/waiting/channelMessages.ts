import { sendAgainAt } from '../../core/journal/sendAgain.ts';
import { promiseState } from '../../core/promises/state.ts';
import { tellChannel } from '../../devices/webShop/tell.ts';
import { instant, momentOf } from '../clock.ts';
import type { Writer } from '../db/database.ts';
import type { House, Sender } from '../house.ts';
import * as channels from '../promises/channelStore.ts';
import { findPromise } from '../promises/store.ts';
import { startSender } from '../sender.ts';
import { stateOf } from './channelOrders.ts';

const SOONEST_MS = 2_000;
const HOUR_MS = 3_600_000;
const AT_ONCE = 50;

/**
 * Looks at orders of channels that have changed: what is new of their states is to be told. @returns how many were
 * looked at
 */
export async function noteChanges(sql: Writer, at: Date): Promise<number> {
  const changed = await channels.changedOrders(sql, AT_ONCE);
  for (const id of changed) {
    const promise = await findPromise(sql, id);
    if (!promise) throw new Error('an order is gone');
    const now = { state: promiseState(promise), givenBack: await channels.givenBackThere(sql, id) };
    const before = await channels.lastMessage(sql, id);
    if (before?.state !== now.state || before.givenBack !== now.givenBack)
      await channels.addChannelMessage(sql, id, now, at);
    await channels.markLooked(sql, id);
  }
  return changed.length;
}

/**
 * Tells channels how their orders stand, one change after the other, until they have taken it; also after a restart,
 * and whatever happened while nobody listened.
 */
export function startChannelMessages({
  database,
  clock,
  log,
  events,
}: Pick<House, 'database' | 'clock' | 'log' | 'events'>): Sender {
  async function tell(message: channels.WaitingMessage): Promise<void> {
    const promise = await database.ask((sql) => findPromise(sql, message.promiseId));
    if (!promise) throw new Error('an order is gone');
    const { address, keyHash, givenBack, state } = message;
    const body = { ...stateOf(promise, givenBack, state), message: message.id };
    try {
      await tellChannel(address, body, keyHash);
      await database.write((sql) => channels.markChannelTold(sql, message.id, clock.now()));
    } catch (error) {
      const words = error instanceof Error ? error.message : 'It does not answer.';
      log.warn({ order: body.number, words }, 'a channel could not be told');
      const now = clock.now();
      const again =
        sendAgainAt(instant(message.at).toJSDate(), now, message.tries + 1) ??
        new Date(now.getTime() + HOUR_MS);
      await database.write((sql) => channels.noteChannelTrouble(sql, message.id, words, again));
    }
    events.tell({ kind: 'channels-changed' });
  }

  const sender = startSender(
    { clock, log },
    {
      what: 'telling channels',
      soonestMs: SOONEST_MS,
      nextDue: async () => momentOf(await database.ask(channels.nextMessage)),
      async sendDue(stopped) {
        while (!stopped()) {
          const changed = await database.ask((sql) => channels.anyChanged(sql));
          if (changed) await database.write((sql) => noteChanges(sql, clock.now()));
          const due = await database.ask((sql) => channels.dueMessages(sql, clock.now()));
          for (const message of due) {
            if (stopped()) return;
            await tell(message);
          }
          // Of an order that was told one change, the next one may be due.
          if (!changed && due.length === 0) return;
        }
      },
    },
  );
  events.hear(({ kind }) => {
    if (kind === 'promises-changed') sender.wake();
  });
  return sender;
}
