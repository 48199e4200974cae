import { randomUUID } from 'node:crypto';
import { mkdir, readdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { HubIncoming, HubMessage, HubOrder, PartnerSaying, RelayHub, ShopSaying } from './driver.ts';

/** What was said about an order, from whom, and whether the shop has taken it. */
export interface HubSaid {
  id: string;
  from: 'shop' | 'partner';
  kind: PartnerSaying | ShopSaying;
  words: string;
  at: string;
  taken: boolean;
}

/** An order as the hub has written it down: one that the shop has passed on, or one that a partner passes to it. */
export interface HubEntry extends HubOrder {
  said: HubSaid[];
  /** Of one for the shop, whether the shop has taken it. */
  forShop?: { taken: boolean };
}

/** A hub of its own, and what its page does: the partner speaks there. */
export interface HubStandIn extends RelayHub {
  entries(): Promise<HubEntry[]>;
  /** A partner passes an order to the shop. @returns what it is called */
  pass(order: Omit<HubIncoming, 'reference' | 'number'>): Promise<string>;
  /** The partner says something. @returns whether there is such an order */
  speak(reference: string, kind: PartnerSaying, words: string): Promise<boolean>;
}

/**
 * A hub that writes each order, and what is said about it, into a file of a folder. While the folder holds a file
 * `closed`, it cannot be reached.
 */
export function hubStandIn(folder: string, now: () => Date): HubStandIn {
  const listeners: (() => void)[] = [];
  // One change of the file after the other.
  let busy: Promise<unknown> = Promise.resolve();
  const file = join(folder, 'hub.json');

  async function read(): Promise<HubEntry[]> {
    const text = await readFile(file, 'utf8').catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return '[]';
      throw error;
    });
    return JSON.parse(text) as HubEntry[];
  }
  function change<T>(work: (entries: HubEntry[]) => T): Promise<T> {
    const done = busy.then(async () => {
      await mkdir(folder, { recursive: true });
      const entries = await read();
      const answer = work(entries);
      await writeFile(`${file}.new`, JSON.stringify(entries, null, 1));
      await rename(`${file}.new`, file);
      return answer;
    });
    busy = done.catch(() => undefined);
    return done;
  }
  async function open(): Promise<void> {
    const files = await readdir(folder).catch((): string[] => []);
    if (files.includes('closed')) throw new Error('The hub cannot be reached.');
  }
  const at = () => now().toISOString();

  return {
    async send(order) {
      await open();
      await change((entries) => {
        if (!entries.some(({ reference }) => reference === order.reference))
          entries.push({ ...order, said: [] });
      });
    },
    async say({ id, reference, kind, words }) {
      await open();
      await change((entries) => {
        const entry = entries.find((one) => one.reference === reference);
        if (entry && !entry.said.some((one) => one.id === id))
          entry.said.push({ id, from: 'shop', kind, words, at: at(), taken: true });
      });
    },
    async orders() {
      const entries = await read();
      return entries.flatMap(({ said: _said, forShop, from: _from, ...order }) =>
        forShop && !forShop.taken ? [order] : [],
      );
    },
    orderTaken: (reference) =>
      change((entries) => {
        const entry = entries.find((one) => one.reference === reference);
        if (entry?.forShop) entry.forShop.taken = true;
      }),
    async messages() {
      const entries = await read();
      return entries.flatMap(({ reference, said }) =>
        said.flatMap(({ id, from, kind, words, taken }): HubMessage[] =>
          from === 'partner' && !taken ? [{ id, reference, kind: kind as PartnerSaying, words }] : [],
        ),
      );
    },
    taken: (id) =>
      change((entries) => {
        for (const { said } of entries) for (const one of said) if (one.id === id) one.taken = true;
      }),
    hear: (listener) => void listeners.push(listener),
    entries: read,
    async pass(order) {
      const number = await change((entries) => {
        const before = entries.filter(({ forShop, partner }) => forShop && partner === order.partner).length;
        const called = `${order.partner}-${before + 1}`;
        entries.push({
          ...order,
          reference: randomUUID(),
          number: called,
          from: order.partner,
          said: [],
          forShop: { taken: false },
        });
        return called;
      });
      for (const hear of listeners) hear();
      return number;
    },
    async speak(reference, kind, words) {
      const known = await change((entries) => {
        const entry = entries.find((one) => one.reference === reference);
        entry?.said.push({ id: randomUUID(), from: 'partner', kind, words, at: at(), taken: false });
        return entry !== undefined;
      });
      for (const hear of listeners) hear();
      return known;
    },
  };
}
