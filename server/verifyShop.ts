import { counted } from '../core/locale.ts';
import { join } from 'node:path';
import { terminalStandIn } from '../devices/terminal/standIn.ts';
import { backUpBeforeMigrating } from './backups/backups.ts';
import { CHECKS, verify } from './books/verify.ts';
import { verifyTerminals } from './books/witnesses.ts';
import { openDatabase } from './db/open.ts';
import type { Settings } from './settings.ts';

/** What recomputing every kept figure of a shop has found, in words; the last line counts. */
export interface VerifiedShop {
  lines: string[];
  differences: number;
}

/**
 * Recomputes every kept figure of a shop that is not open from the events behind it, and compares what its terminals
 * took.
 */
export async function verifyShop(settings: Settings): Promise<VerifiedShop> {
  const database = await openDatabase(
    settings,
    () => {},
    (message) => console.error(message),
    backUpBeforeMigrating(settings, { now: () => new Date() }),
  );
  try {
    const terminals = terminalStandIn(join(settings.dataFolder, 'terminals'), () => new Date());
    const witnessed = await verifyTerminals(database, terminals);
    const differences = [...(await database.ask(verify)), ...witnessed.differences];
    const count = differences.length;
    return {
      lines: [
        ...witnessed.unasked.map((serial) => `Terminal ${serial} could not be asked.`),
        ...differences.map(
          ({ check, what, kept, recomputed }) =>
            `${check}: ${what} is kept as ${kept}, its events make ${recomputed}`,
        ),
        `${CHECKS.length + 1} checks, ${counted(count, 'difference')}.`,
      ],
      differences: count,
    };
  } finally {
    await database.close();
  }
}
