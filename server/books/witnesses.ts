import type { TerminalDriver } from '../../devices/terminal/driver.ts';
import { TerminalUnreachable } from '../../devices/terminal/driver.ts';
import type { TenderState } from '../../core/payment/tender.ts';
import type { Database } from '../db/database.ts';
import type { Difference } from './verify.ts';
import { recordedCards, terminalSerials } from './witnessStore.ts';

/** States in which a terminal may say another thing than what is recorded: it is still being asked. */
const UNDER_WAY: readonly TenderState[] = ['stored', 'asked', 'unanswered', 'abandoned', 'undoing'];

/** What comes of asking those outside of the database. */
export interface Witnessed {
  differences: Difference[];
  /** Terminals that could not be asked. */
  unasked: string[];
}

/** Compares card payments with what every terminal says that it took and has not given back. */
export async function verifyTerminals(
  database: Database,
  terminal: Pick<TerminalDriver, 'list'>,
): Promise<Witnessed> {
  const differences: Difference[] = [];
  const unasked: string[] = [];
  const recorded = await database.ask(recordedCards);
  const serials = await database.ask(terminalSerials);
  for (const { serial } of serials) {
    const answers = await terminal.list(serial, '').catch((error: unknown) => {
      if (error instanceof TerminalUnreachable) return null;
      throw error;
    });
    if (!answers) {
      unasked.push(serial);
      continue;
    }
    const mine = recorded.filter((one) => one.serial === serial && !UNDER_WAY.includes(one.state));
    const took = new Map(
      answers
        .filter(({ state }) => state === 'approved')
        .map(({ reference, amount, tip, roundUp }) => [reference, amount + tip + roundUp]),
    );
    const pending = new Set(recorded.filter(({ state }) => UNDER_WAY.includes(state)).map(({ id }) => id));
    for (const { id, state, amount, tip, roundUp } of mine) {
      const kept = state === 'approved' ? amount + tip + roundUp : 0;
      const recomputed = took.get(id) ?? 0;
      if (kept !== recomputed) differences.push(difference(serial, id, kept, recomputed));
    }
    const known = new Set(mine.map(({ id }) => id));
    for (const [reference, amount] of took) {
      if (!known.has(reference) && !pending.has(reference))
        differences.push(difference(serial, reference, 0, amount));
    }
  }
  return { differences, unasked };
}

const difference = (serial: string, id: string, kept: number, recomputed: number): Difference => ({
  check: 'terminals took what the shop says of their card payments',
  what: `terminal ${serial} payment ${id}`,
  kept,
  recomputed,
});
