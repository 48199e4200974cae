import type { Reader } from '../db/database.ts';

/** Payments that hold money, or may, of baskets that are not finished. */
export const openPayments = (sql: Reader, tillId: number) =>
  sql.query<{ asked: boolean; amount: number }>(
    `select bool_or(tender_state.open) as asked,
            sum(case when refund then -amount else amount end)::bigint as amount
     from payment join payment_tender as tender using (basket_id)
     join tender_state on tender_state.name = tender.state and tender_state.holds
     where payment.till_id = $1 and payment.state = 'open'
     group by basket_id`,
    [tillId],
  );

/** Voids that wait for a terminal. */
export const voidsUnderWay = (sql: Reader, tillId: number) =>
  sql.query<{ id: string; till: number; number: number }>(
    `select sale.id, till.number as till, sale.number from sale_void join sale on sale.id = sale_id
     join till on till.id = sale.till_id where sale_void.till_id = $1 and state = 'begun'`,
    [tillId],
  );

/** Baskets that wait, the oldest first. */
export const heldBaskets = (sql: Reader, tillId: number) =>
  sql.query<{ name: string; ticket: number }>(
    `select name, ticket from held_basket
     where held_on = $1 and taken_at is null order by held_at`,
    [tillId],
  );
