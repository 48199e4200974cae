import type { Paper } from '../../../core/journal/paper.ts';
import { paperText } from '../../../core/journal/paperText.ts';
import type { PrinterSetup } from '../../../core/journal/printerSetup.ts';
import type { Reader } from '../../db/database.ts';
import type { House } from '../../house.ts';
import {
  doubtWhatWasPrinting,
  markDoubtful,
  markPrinted,
  markPrinting,
  nextJob,
  tillsThatWait,
  type PrintJob,
} from './store.ts';

/** Prints what is stored as waiting, oldest first at each till, also after a restart. */
export interface Printing {
  /** There may be something to print. */
  wake(): void;
  /** In words, what keeps a till's printer from printing. */
  troubleOf(tillId: number): string | undefined;
  /** Prints no more: a paper that a printer is busy with and does not end now is in doubt. */
  stop(): Promise<void>;
}

const TRY_AGAIN_MS = 5_000;

/** How printing a paper ended: it is out, nobody knows, or it has not begun for a reason. */
type Outcome = 'out' | 'doubtful' | { trouble: string };

/** Makes what is printed for a job. */
type PaperOf = (sql: Reader, job: PrintJob, setup: PrinterSetup, now: Date) => Paper | Promise<Paper>;

export function startPrinting(
  house: Pick<House, 'database' | 'printers' | 'events' | 'log' | 'clock'>,
  paperOf: PaperOf,
): Printing {
  const { database, printers, events, log, clock } = house;
  /** One at a time at each till; a printer in trouble holds up no other. */
  const running = new Map<number, Promise<void>>();
  const troubles = new Map<number, string>();
  const timers = new Map<number, NodeJS.Timeout>();
  /** Tills for which something may have come after their last look. */
  const missed = new Set<number>();
  const ending = new AbortController();
  let looking: Promise<void> | undefined;
  let again = false;
  let stopped = false;
  let recovered = false;

  function tellTrouble(tillId: number, words: string | undefined): void {
    if (troubles.get(tillId) === words) return;
    if (words === undefined) troubles.delete(tillId);
    else troubles.set(tillId, words);
    events.tell({ kind: 'printer-changed', tillId });
  }

  async function printOne(job: PrintJob & { setup: PrinterSetup }): Promise<Outcome> {
    const { id, tillId, setup, openDrawer } = job;
    const printer = `till-${job.tillNumber}`;
    let begun = false;
    try {
      const paper = await database.ask(async (sql) => paperOf(sql, job, setup, clock.now()));
      const text = paperText(paper, setup.columns);
      await printers[setup.kind].print(
        { id, printer, setup, paper, text, openDrawer },
        {
          async begins() {
            await database.write((sql) => markPrinting(sql, id));
            begun = true;
          },
          trouble: (words) => tellTrouble(tillId, words),
          ending: ending.signal,
        },
      );
    } catch (error) {
      log.warn({ err: error, job: id, begun }, 'a paper could not be printed');
      if (!begun) return { trouble: error instanceof Error ? error.message : 'The printer does not answer.' };
      // Whether it came out is asked of a person; whether the printer prints, the next paper finds out.
      await database.write((sql) => markDoubtful(sql, id));
      return 'doubtful';
    }
    await database.ask((sql) => markPrinted(sql, id, clock.now()));
    tellTrouble(tillId, undefined);
    events.tell({ kind: 'printed', tillId, jobId: id, saleId: job.saleId });
    return 'out';
  }

  async function printFor(tillId: number): Promise<void> {
    while (!stopped) {
      const job = await database.ask((sql) => nextJob(sql, tillId));
      if (!job) return;
      const outcome = await printOne(job);
      if (outcome === 'out') continue;
      tellTrouble(tillId, outcome === 'doubtful' ? undefined : outcome.trouble);
      // What waits or is in doubt now is to be seen, whether or not the words are the same.
      events.tell({ kind: 'printer-changed', tillId });
      clearTimeout(timers.get(tillId));
      timers.set(tillId, setTimeout(wake, TRY_AGAIN_MS));
      return;
    }
  }

  async function look(): Promise<void> {
    if (!recovered) {
      await database.write(doubtWhatWasPrinting);
      recovered = true;
    }
    const waiting = await database.ask(tillsThatWait);
    // Where nothing waits any more, nothing is known of the printer either.
    for (const tillId of troubles.keys()) {
      if (!waiting.includes(tillId) && !running.has(tillId)) tellTrouble(tillId, undefined);
    }
    for (const tillId of waiting) {
      if (running.has(tillId)) {
        missed.add(tillId);
        continue;
      }
      running.set(
        tillId,
        printFor(tillId)
          .catch((error: unknown) => log.error({ err: error, tillId }, 'printing stopped'))
          .finally(() => {
            running.delete(tillId);
            if (missed.delete(tillId)) wake();
          }),
      );
    }
  }

  function wake(): void {
    if (stopped) return;
    again = true;
    looking ??= (async () => {
      while (again && !stopped) {
        again = false;
        await look();
      }
    })()
      .catch((error: unknown) => log.error({ err: error }, 'printing stopped'))
      .finally(() => {
        looking = undefined;
      });
  }

  return {
    wake,
    troubleOf: (tillId) => troubles.get(tillId),
    async stop() {
      stopped = true;
      for (const timer of timers.values()) clearTimeout(timer);
      ending.abort();
      await looking;
      await Promise.all(running.values());
    },
  };
}
