import type { Worker } from 'node:worker_threads';
import { v4 as newId } from 'uuid';
import type { Rehearsal, RehearsalFindings } from '../../contract/offers.ts';
import type { Offer } from '../../core/offers/offer.ts';
import { noSums } from '../../core/offers/rehearse.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { readShop } from '../shop/store.ts';
import { startThread } from '../thread.ts';
import { liveOffers } from './offerStore.ts';
import { countPastBaskets, pastBaskets, type Days } from './pastBasketStore.ts';

/** So many baskets are read and priced at a time; other questions to the database come in between. */
const CHUNK = 200;
/** So many finished rehearsals are kept to be looked at. */
const KEPT = 10;
const FIRST_ID = '00000000-0000-0000-0000-000000000000';

const nothingYet = (): RehearsalFindings => ({ ...noSums(), days: [], others: [] });

/** Rehearsals of drafts over past baskets, in a thread of their own, one at a time. */
export interface Rehearsals {
  /** @throws Problem 409 while another one is running */
  start(draft: Offer, days: Days): Promise<Rehearsal>;
  /** @throws Problem 404 */
  find(id: string): Rehearsal;
  cancel(id: string): void;
}

export function createRehearsals({ database, log }: Pick<House, 'database' | 'log'>): Rehearsals {
  const kept = new Map<string, Rehearsal>();

  const find = (id: string): Rehearsal => {
    const found = kept.get(id);
    if (!found) throw new Problem('no-rehearsal', 'This rehearsal is not kept any more. Run it again.');
    return found;
  };

  async function run(rehearsal: Rehearsal, worker: Worker, days: Days): Promise<void> {
    const { timezone } = await database.ask(readShop);
    let after = FIRST_ID;
    while (rehearsal.state === 'running') {
      const baskets = await database.ask((sql) => pastBaskets(sql, days, timezone, after, CHUNK));
      const last = baskets.at(-1);
      if (!last) {
        rehearsal.state = 'done';
        return;
      }
      after = last.saleId;
      rehearsal.findings = await answer(worker, baskets);
      rehearsal.done += baskets.length;
    }
  }

  return {
    find,
    async start(draft, days) {
      if ([...kept.values()].some(({ state }) => state === 'running'))
        throw new Problem('rehearsal-running', 'Another rehearsal is running. Wait for it, or cancel it.');
      const rehearsal: Rehearsal = {
        id: newId(),
        state: 'running',
        baskets: 0,
        done: 0,
        findings: nothingYet(),
      };
      kept.set(rehearsal.id, rehearsal);
      for (const id of [...kept.keys()].slice(0, -KEPT)) kept.delete(id);
      const live = await database.ask(liveOffers);
      rehearsal.baskets = await database.ask((sql) => countPastBaskets(sql, days));
      const worker = startThread('rehearsalThread', { draft, live });
      worker.unref();
      void run(rehearsal, worker, days)
        .catch((error: unknown) => {
          rehearsal.state = 'failed';
          log.error({ err: error }, 'a rehearsal failed');
        })
        .finally(() => void worker.terminate());
      return rehearsal;
    },
    cancel(id) {
      const rehearsal = find(id);
      if (rehearsal.state === 'running') rehearsal.state = 'cancelled';
    },
  };
}

function answer(worker: Worker, baskets: readonly object[]): Promise<RehearsalFindings> {
  return new Promise((resolve, reject) => {
    const clear = () => {
      worker.off('message', heard);
      worker.off('error', failed);
    };
    const heard = (findings: RehearsalFindings) => {
      clear();
      resolve(findings);
    };
    const failed = (error: Error) => {
      clear();
      reject(error);
    };
    worker.once('message', heard);
    worker.once('error', failed);
    worker.postMessage(baskets);
  });
}
