import type { LeftOver } from '../../contract/drawer.ts';
import { ticketNumber } from '../../core/journal/holdTicket.ts';
import { receiptNumber } from '../../core/journal/receiptNumber.ts';
import type { Reader } from '../db/database.ts';
import * as store from './leftOverStore.ts';

/** What a till leaves over: money that is held, voids that are under way, baskets that wait. */
export async function leftOversOf(sql: Reader, tillId: number): Promise<LeftOver[]> {
  const payments = await store.openPayments(sql, tillId);
  const voids = await store.voidsUnderWay(sql, tillId);
  const held = await store.heldBaskets(sql, tillId);
  return [
    ...payments.map(({ asked }): LeftOver =>
      asked
        ? { kind: 'terminal', words: 'A card terminal has not answered yet.', blocks: true, link: '/counter' }
        : {
            kind: 'unfinished-sale',
            words: 'Money was taken for a sale that is not finished.',
            blocks: true,
            link: '/counter',
          },
    ),
    ...voids.map(({ id, till, number }): LeftOver => ({
      kind: 'void',
      words: `${receiptNumber(till, number)} is being voided: the card terminal has not answered yet.`,
      blocks: true,
      link: `/journal/${id}`,
    })),
    ...held.map(({ name, ticket }): LeftOver => ({
      kind: 'held',
      words: `The held basket ${name || ticketNumber(ticket)} still waits.`,
      blocks: false,
      link: '/waiting',
    })),
  ];
}
