import type { LeftOver } from '../../contract/drawer.ts';
import { ticketNumber } from '../../core/journal/holdTicket.ts';
import { receiptNumber } from '../../core/journal/receiptNumber.ts';
import type { Reader } from '../db/database.ts';

/** What a till leaves over: money that is held, voids that are under way, baskets that wait. */
export async function leftOversOf(sql: Reader, tillId: number): Promise<LeftOver[]> {
  const payments = await sql.query<{ asked: boolean; amount: number }>(
    `select bool_or(tender_state.open) as asked,
            sum(case when refund then -amount else amount end)::bigint as amount
     from payment join payment_tender as tender using (basket_id)
     join tender_state on tender_state.name = tender.state and tender_state.holds
     where payment.till_id = $1 and payment.state = 'open'
     group by basket_id`,
    [tillId],
  );
  const voids = await sql.query<{ id: string; till: number; number: number }>(
    `select sale.id, till.number as till, sale.number from sale_void join sale on sale.id = sale_id
     join till on till.id = sale.till_id where sale_void.till_id = $1 and state = 'begun'`,
    [tillId],
  );
  const held = await sql.query<{ name: string; ticket: number }>(
    `select name, ticket from held_basket
     where held_on = $1 and taken_at is null order by held_at`,
    [tillId],
  );
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
