import type { TenderState } from '../../core/payment/tender.ts';
import type { Reader } from '../db/database.ts';

/** A card payment as it is recorded. */
export interface Recorded {
  id: string;
  serial: string;
  state: TenderState;
  amount: number;
  tip: number;
  roundUp: number;
}

export const recordedCards = (sql: Reader): Promise<Recorded[]> =>
  sql.query<Recorded>(
    `select payment_tender.id, serial, state, amount, tip, round_up as "roundUp"
     from payment_tender join terminal on terminal.id = terminal_id`,
  );

export const terminalSerials = (sql: Reader): Promise<{ serial: string }[]> =>
  sql.query<{ serial: string }>('select serial from terminal');
