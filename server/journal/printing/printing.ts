import type { Paper } from '../../../core/journal/paper.ts';
import { paperText } from '../../../core/journal/paperText.ts';
import { ticketPaper } from '../../waiting/service.ts';
import { cashMovePaper, openingPaper } from '../../drawer/cashMoves.ts';
import { reportPaper } from '../../drawer/service.ts';
import type { Reader } from '../../db/database.ts';
import type { House } from '../../house.ts';
import { handoverPaper } from '../../drawer/handover.ts';
import { voidPaper } from '../voids/paper.ts';
import { giftCardOf, receiptPaper } from '../service.ts';
import { markPrinted, waitingJobs, type PrintJob } from './store.ts';

/** Prints what is stored as waiting, oldest first, also after a restart. */
export interface Printing {
  /** There may be something to print. */
  wake(): void;
  /** Waits for the paper that is being printed, then prints no more. */
  stop(): Promise<void>;
}

const TRY_AGAIN_MS = 5_000;
const AT_ONCE = 20;

export function startPrinting(
  house: Pick<House, 'database' | 'printer' | 'events' | 'log' | 'clock'>,
): Printing {
  const { database, printer, events, log, clock } = house;
  let running: Promise<void> | undefined;
  let again = false;
  let stopped = false;
  let timer: NodeJS.Timeout | undefined;

  async function printOne(job: PrintJob): Promise<void> {
    const paper = await database.ask(async (sql) => paperOf(sql, job));
    const { id, openDrawer } = job;
    await printer.print({ id, printer: `till-${job.tillNumber}`, paper, text: paperText(paper), openDrawer });
    await database.ask((sql) => markPrinted(sql, id, clock.now()));
    events.tell({ kind: 'printed', tillId: job.tillId, jobId: id, saleId: job.saleId });
  }

  async function printWaiting(): Promise<void> {
    while (!stopped) {
      const jobs = await database.ask((sql) => waitingJobs(sql, AT_ONCE));
      if (jobs.length === 0) return;
      for (const job of jobs) {
        if (stopped) return;
        try {
          await printOne(job);
        } catch (error) {
          log.warn({ err: error, job: job.id }, 'a paper could not be printed');
          const message = error instanceof Error ? error.message : 'The printer does not answer.';
          events.tell({ kind: 'printer-failed', tillId: job.tillId, message });
          timer = setTimeout(wake, TRY_AGAIN_MS);
          return;
        }
      }
    }
  }

  function wake(): void {
    if (stopped) return;
    if (running) {
      again = true;
      return;
    }
    running = printWaiting()
      .catch((error: unknown) => log.error({ err: error }, 'printing stopped'))
      .finally(() => {
        running = undefined;
        if (again) {
          again = false;
          wake();
        }
      });
  }

  return {
    wake,
    async stop() {
      stopped = true;
      clearTimeout(timer);
      await running;
    },
  };
}

const NO_PAPER: Paper = { title: 'Drawer', rows: [] };

function paperOf(sql: Reader, job: PrintJob): Paper | Promise<Paper> {
  const { kind, saleId, shiftId, heldId, openingId, cashMoveId, storedValueId, handoverId } = job;
  if (kind === 'drawer-only') return NO_PAPER;
  if (storedValueId !== null) return giftCardOf(sql, storedValueId);
  if (saleId !== null && (kind === 'receipt' || kind === 'copy' || kind === 'gift-receipt')) {
    return receiptPaper(sql, saleId, kind);
  }
  if (saleId !== null && kind === 'void-slip') return voidPaper(sql, saleId);
  if (handoverId !== null) return handoverPaper(sql, handoverId);
  if (heldId !== null) return ticketPaper(sql, heldId);
  if (openingId !== null) return openingPaper(sql, openingId);
  if (cashMoveId !== null) return cashMovePaper(sql, cashMoveId);
  if (shiftId !== null) return reportPaper(sql, shiftId);
  throw new Error('a print job is about nothing');
}
