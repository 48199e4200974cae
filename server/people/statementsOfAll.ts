import { v4 as newId } from 'uuid';
import type { StatementDays, StatementsJob } from '../../contract/accounts.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { startThread } from '../thread.ts';
import { listAccounts } from './accountListStore.ts';
import { statementSheets } from './statements.ts';
import type { StatementsMessage } from './statementsThread.ts';

/** So many statements are read at once: a till waits for no more. */
const AT_ONCE = 8;
/** Reading them is about so much of the work. */
const READING = 0.3;

type Said = { part: number } | { pdf: Uint8Array } | { trouble: string };

/** Statements of all who owe, made beside everything else; the last file stays until the next one is made. */
export class StatementsOfAll {
  private job: StatementsJob | null = null;
  private pdf: Uint8Array | null = null;
  /** The days that the file is for. */
  private days = '';

  constructor(private readonly house: Pick<House, 'database' | 'log'>) {}

  /** How far a file is. */
  look(id: string): StatementsJob | null {
    return this.job?.id === id ? this.job : null;
  }

  /** The file, once it is made. */
  file(id: string): Uint8Array | null {
    return this.job?.id === id ? this.pdf : null;
  }

  /**
   * Begins a file for all who owe; asked twice, it is made once. @param today the shop's calendar day @throws Problem
   * 409
   */
  begin(days: StatementDays, today: string): StatementsJob {
    const of = JSON.stringify(days);
    if (this.job?.state === 'making') {
      if (this.days === of) return this.job;
      throw new Problem('refused', 'Statements for other days are being made just now.', {
        detail: 'Wait until they are done; then make these.',
      });
    }
    this.days = of;
    // From here on whoever asks meanwhile hears of this one.
    const job: StatementsJob = { id: newId(), state: 'making', progress: 0, count: 0, words: '' };
    this.job = job;
    this.pdf = null;
    this.make(job, days, today).catch((error: unknown) => {
      this.house.log.error({ err: error }, 'statements could not be made');
      Object.assign(job, { state: 'failed', words: 'They could not be made. Try again.' });
    });
    return job;
  }

  private async make(job: StatementsJob, days: StatementDays, today: string): Promise<void> {
    const query = { find: '', show: 'owing' as const, page: 0 };
    const listed = await this.house.database.ask((sql) => listAccounts(sql, query, today, true));
    const ids = listed.map(({ id }) => id);
    job.count = ids.length;
    if (ids.length === 0) {
      Object.assign(job, { state: 'failed', words: 'Nobody owes anything.' });
      return;
    }
    const { size } = await this.house.database.ask((sql) => statementSheets(sql, [], days));
    const thread = startThread('statementsThread', { size });
    try {
      const done = new Promise<Uint8Array>((resolve, reject) => {
        thread.on('error', reject);
        thread.on('exit', () => reject(new Error('the thread ended')));
        thread.on('message', (said: Said) => {
          if ('part' in said) job.progress = READING + (1 - READING) * said.part;
          else if ('pdf' in said) resolve(said.pdf);
          else reject(new Error(said.trouble));
        });
      });
      // Whoever waits for it hears of it; until then it is nobody's.
      done.catch(() => {});
      const tell = (message: StatementsMessage) => thread.postMessage(message);
      for (let at = 0; at < ids.length; at += AT_ONCE) {
        const part = ids.slice(at, at + AT_ONCE);
        tell({ sheets: (await this.house.database.ask((sql) => statementSheets(sql, part, days))).sheets });
        job.progress = (READING * Math.min(ids.length, at + AT_ONCE)) / ids.length;
      }
      tell('all');
      this.pdf = await done;
      Object.assign(job, { state: 'done', progress: 1 });
    } finally {
      await thread.terminate();
    }
  }
}
