import type { Reader } from '../db/database.ts';
import type { Check } from './check.ts';
import { ACCOUNT_CHECKS } from './accountChecks.ts';
import { FIGURE_CHECKS } from './figureChecks.ts';
import { COST_CHECKS } from './costChecks.ts';
import { piecesOf } from './piecesStore.ts';
import { PROMISE_CHECKS } from './promiseChecks.ts';

/** Something that does not tie out. */
export interface Difference {
  check: string;
  what: string;
  kept: number;
  recomputed: number;
}

/** Cash that sales of a shift have left in its drawer; change on foreign cash is given in the shop's own. */
const CASH_OF_SHIFT = `select sum(case tender.kind when 'cash' then tender.amount
  else tender.amount - tender.handed end)
                   + (select coalesce(sum(case when type.kind = 'cash' then -correction.amount
                     else correction.amount end), 0)
                      from tender_correction as correction join tender_type as type on type.id = from_type
                      join tender_type as target on target.id = to_type
                      where correction.shift_id = shift.id and (type.kind = 'cash' or target.kind = 'cash'))
                   from standing_sale as sale join tender on tender.sale_id = sale.id
                   where sale.shift_id = shift.id and tender.kind in (select name from tender_kind where in_drawer)`;

/** Whatever day anything was on. */
const ALL_DAYS = { from: '0001-01-01', to: '9999-12-31' };

/** Everything that is checked. */
export const CHECKS: readonly Check[] = [
  {
    name: 'points of customers are the sums of their moves',
    sql: `select 'customer ' || customer.id as what, points as kept, coalesce(summed, 0)::bigint as recomputed
          from customer left join (select customer_id, sum(amount) as summed from points_move
            group by customer_id) as moves
            on customer_id = customer.id
          where points <> coalesce(summed, 0)`,
  },
  {
    name: 'the books hold for points what they are worth',
    sql: `select 'points of all customers' as what, coalesce((
              select -sum(amount) from ledger_entry where account = 'points-payable'), 0)::bigint as kept,
            (select coalesce(sum(points_value(points)), 0) from customer)::bigint as recomputed
          where coalesce((select -sum(amount) from ledger_entry where account = 'points-payable'), 0)
            <> (select coalesce(sum(points_value(points)), 0) from customer)
             or exists (select 1 from customer where points_booked <> points_value(points))`,
  },
  {
    name: 'points of customers are what is left in their lots',
    sql: `select 'customer ' || customer.id as what, points as kept, coalesce(summed, 0)::bigint as recomputed
          from customer left join (select customer_id, sum(remaining) as summed from points_lot
            group by customer_id) as lots
            on customer_id = customer.id
          where points <> coalesce(summed, 0)`,
  },
  {
    name: 'what is left in a lot of points is what was put in less what was taken',
    sql: `select 'lot ' || lot.id as what, remaining as kept, coalesce(summed, 0)::bigint as recomputed
          from points_lot as lot left join (select lot_id, sum(amount) as summed from points_use
            group by lot_id) as used
            on lot_id = lot.id
          where remaining <> coalesce(summed, 0)`,
  },
  {
    name: 'points that moved came from lots or went into them',
    sql: `select 'move ' || move.id as what, move.amount as kept, coalesce(summed, 0)::bigint as recomputed
          from points_move as move left join (select move_id, sum(amount) as summed from points_use
            group by move_id) as used
            on move_id = move.id
          where reason <> 'merged' and move.amount <> coalesce(summed, 0)`,
  },
  {
    name: 'a sale has taken the points that pay for what is left of it',
    sql: `select 'sale ' || sale_id as what, -sum(amount)::bigint as kept, points_off_due(sale_id) as recomputed
          from points_move as move
          where reason in ('money off', 'money off given back', 'money off taken again')
            and not exists (select 1 from points_move as first join customer as buyer on buyer.id = first.customer_id
                            where first.sale_id = move.sale_id and first.reason = 'money off'
                              and buyer.forgotten_at is not null)
          group by sale_id having -sum(amount) <> points_off_due(sale_id)`,
  },
  {
    name: 'a sale has given the points of what is left of it',
    sql: `select 'sale ' || points.sale_id as what, coalesce(summed, 0)::bigint as kept,
      points_due(points.sale_id) as recomputed
          from sale_points as points join customer on customer.id = points.customer_id
          left join (select sale_id, sum(amount) as summed from points_move
                     where reason in ('earned', 'taken back', 'earned again') group by sale_id) as moves
            on moves.sale_id = points.sale_id
          where coalesce(summed, 0) <> points_due(points.sale_id) and not exists (
            select 1 from customer as kept where kept.id = coalesce(customer.merged_into, customer.id)
              and kept.forgotten_at is not null)`,
  },
  {
    name: 'no offer was used more often than it may be',
    sql: `select 'offer ' || name as what, in_total::bigint as kept, sum(uses)::bigint as recomputed
          from offer join offer_use on offer_id = offer.id
          group by offer.id having sum(uses) > in_total`,
  },
  {
    name: 'no code that opens an offer once was used twice',
    sql: `select 'code ' || code as what, 1::bigint as kept, sum(uses)::bigint as recomputed
          from offer_code join offer_use using (code) where single group by code having sum(uses) > 1`,
  },
  ...PROMISE_CHECKS,
  ...ACCOUNT_CHECKS,
  ...COST_CHECKS,
  ...FIGURE_CHECKS,
  {
    name: 'every ledger event balances',
    sql: `select 'event ' || event.id as what, 0::bigint as kept, coalesce(sum(entry.amount), 0)::bigint as recomputed
          from ledger_event as event left join ledger_entry as entry on entry.event_id = event.id
          where at >= $1::date and at < $2::date + 1
          group by event.id having coalesce(sum(entry.amount), 0) <> 0`,
    daily: true,
  },
  {
    name: 'kept account balances are the sums of their entries',
    sql: `select account || ' ' || subject as what, coalesce(kept, 0)::bigint as kept,
      coalesce(summed, 0)::bigint as recomputed
          from (select account, subject, balance as kept from account_balance) as held
          full join (select account, subject, sum(amount) as summed from ledger_entry
                     where keeps_balance(account) group by account, subject) as entries
            using (account, subject)
          where coalesce(kept, 0) <> coalesce(summed, 0)`,
  },
  {
    name: 'stock levels are the sums of their moves',
    sql: `select 'item ' || item_id || ' at place ' || place_id as what,
                 coalesce(kept, 0)::bigint as kept, coalesce(summed, 0)::bigint as recomputed
          from (select item_id, place_id, quantity as kept from stock_level) as held
          full join (select item_id, place_id, sum(quantity) as summed from stock_move
            group by item_id, place_id) as moves
            using (item_id, place_id)
          where coalesce(kept, 0) <> coalesce(summed, 0)`,
  },
  {
    name: "a sale's lines add up to its figures",
    sql: `select 'sale ' || sale.id as what, (sale.regular + sale.reductions)::bigint as kept,
      sum(line.net)::bigint as recomputed
          from sale join sale_line as line on line.sale_id = sale.id
          where business_date between $1::date and $2::date
          group by sale.id having sum(line.net) <> sale.regular + sale.reductions`,
    daily: true,
  },
  {
    name: "a line's price records add up to its reduction",
    sql: `select 'sale ' || sale_id || ' line ' || position as what, (net - line.regular)::bigint as kept,
                 recorded::bigint as recomputed
          from sale join sale_line as line on sale_id = sale.id, lateral (
            select coalesce(sum((record->>'amount')::bigint), 0) as recorded
              from jsonb_array_elements(records) as record
          ) as added
          where business_date between $1::date and $2::date and recorded <> net - line.regular`,
    daily: true,
  },
  {
    name: "a sale's tax is the sum of its rates",
    sql: `select 'sale ' || sale.id as what, sale.tax as kept, coalesce(sum(amount.tax), 0)::bigint as recomputed
          from sale left join sale_tax as amount on amount.sale_id = sale.id
          where business_date between $1::date and $2::date
          group by sale.id having coalesce(sum(amount.tax), 0) <> sale.tax`,
    daily: true,
  },
  {
    name: 'tenders pay exactly the total, what was given to a fund and what cash was rounded by',
    sql: `select 'sale ' || sale.id as what, (total + donation + cash_rounding)::bigint as kept,
                 coalesce(sum(tender.amount), 0)::bigint as recomputed
          from sale left join tender on tender.sale_id = sale.id
          where business_date between $1::date and $2::date
          group by sale.id having coalesce(sum(tender.amount), 0) <> total + donation + cash_rounding`,
    daily: true,
  },
  {
    name: 'a serial number that went is on the sale it went with',
    sql: `select 'item ' || item_id || ' ' || serial as what, 1::bigint as kept, count(line.sale_id) as recomputed
          from serial left join sale_line as line using (item_id, serial, sale_id)
          where sale_id is not null group by item_id, serial having count(line.sale_id) <> 1`,
  },
  {
    name: 'every sale is in the ledger once, with its total',
    sql: `select 'sale ' || sale.id as what, sale.total as kept, (posted.amount + sold.amount)::bigint as recomputed
          from sale, lateral (
            select coalesce(-sum(entry.amount), 0) as amount, count(distinct event.id) as events
            from ledger_event as event
            left join ledger_entry as entry on entry.event_id = event.id
              and entry.account in ('sales', 'returns', 'discounts', 'tax-payable')
            where event.sale_id = sale.id and event.kind = 'sale') as posted, lateral (
            select coalesce(sum(net), 0) as amount from sale_line
            where sale_id = sale.id and (stored_value_id is not null or account_id is not null
              or promise_part in ('deposit', 'used', 'back'))) as sold
          where business_date between $1::date and $2::date
            and (posted.amount + sold.amount <> sale.total or posted.events <> 1)`,
    daily: true,
  },
  {
    name: 'balances of stored value are the sums of their moves',
    sql: `select 'stored value ' || id as what, balance as kept, coalesce(summed, 0)::bigint as recomputed
          from stored_value left join (
            select stored_value_id, sum(amount) as summed from stored_value_move group by 1) as moves
            on stored_value_id = stored_value.id
          where balance <> coalesce(summed, 0)`,
  },
  {
    name: 'what is owed for gift cards, certificates and store credit is what they hold',
    sql: `select coalesce(what, owed) as what, coalesce(kept, 0)::bigint as kept,
      coalesce(posted, 0)::bigint as recomputed
          from (select case kind when 'store-credit' then 'customer:' || customer_id else kind end as what,
                       sum(balance) as kept from stored_value group by 1) as held
          full join (select subject as owed, -sum(amount) as posted from ledger_entry
                     where account in ('stored-value', 'store-credit') group by 1) as books on owed = what
          where coalesce(kept, 0) <> coalesce(posted, 0)`,
  },
  {
    name: 'no payment holds more of stored value than there is',
    sql: `select 'stored value ' || id as what, balance as kept, held_of(id) as recomputed
          from stored_value where held_of(id) > balance`,
  },
  {
    name: 'every payment of a finished sale is among its tenders',
    sql: `select 'payment ' || payment_tender.id as what,
      (payment_tender.amount + payment_tender.round_up)::bigint as kept,
                 coalesce(abs(tender.amount), 0)::bigint as recomputed
          from payment_tender join payment using (basket_id)
          left join tender on tender.payment_tender_id = payment_tender.id
          where payment.state = 'finished' and payment_tender.state = 'approved'
            -- Cash is rounded when it goes back; a void refunds beside the sale's own payments.
            and abs(tender.amount) is distinct from payment_tender.amount + payment_tender.round_up
            and not (payment_tender.refund and payment_tender.token is null and tender.kind = 'cash')
            and not exists (select 1 from sale_void where sale_id = payment_tender.basket_id)
            -- What came too late and was refunded instead of being taken back comes to nothing.
            and not exists (select 1 from payment_tender as back
                            where back.sends_back = payment_tender.id and back.state = 'approved'
                              and back.amount = payment_tender.amount + payment_tender.tip + payment_tender.round_up)
            and payment_tender.sends_back is null`,
  },
  {
    name: 'what a finished sale was paid with is held by its payments',
    sql: `select 'sale ' || tender.sale_id || ' payment ' || tender.position as what, tender.amount as kept,
                 case when payment_tender.refund then -payment_tender.amount
                   else payment_tender.amount end as recomputed
          from tender join payment_tender on payment_tender.id = tender.payment_tender_id
          where payment_tender.state <> 'approved'
            and not exists (select 1 from sale_void where sale_id = tender.sale_id)`,
  },
  {
    name: 'no payment is open for a sale that is finished, and none is asked for',
    sql: `select 'basket ' || payment.basket_id as what, 0::bigint as kept,
                 coalesce(sum(payment_tender.amount), 0)::bigint as recomputed
          from payment
          left join payment_tender on payment_tender.basket_id = payment.basket_id
            and payment_tender.state in ('stored', 'asked', 'unanswered')
          where payment.state = 'open' and exists (select 1 from sale where id = payment.basket_id)
             or payment.state = 'finished' and not exists (select 1 from sale where id = payment.basket_id)
             or payment.state = 'finished' and payment_tender.id is not null and payment_tender.sends_back is null
                and not exists (select 1 from sale_void where sale_id = payment.basket_id and state = 'begun')
          group by payment.basket_id`,
  },
  {
    name: 'no sale was both voided and corrected, and no payment corrected that money went back along',
    sql: `select 'sale ' || correction.sale_id as what, 0::bigint as kept, correction.amount as recomputed
          from tender_correction as correction
          where exists (select 1 from sale_void where sale_id = correction.sale_id)
             or exists (select 1 from tender as back where back.refunds_sale = correction.sale_id
                          and back.refunds_position = correction.position and back.amount < 0
                          and not exists (select 1 from sale_void where sale_id = back.sale_id))`,
  },
  {
    name: 'an approval was used for what it was given for',
    sql: `select 'approval ' || used.countersign_id as what, 1::bigint as kept, 0::bigint as recomputed
          from countersign_use as used join countersign on countersign.id = countersign_id
          where used.used_for <> countersign.basket_id`,
  },
  {
    name: 'cash that was moved with an approval is what was approved',
    sql: `select 'cash move ' || move.id as what, move.amount as kept,
                 coalesce((cover->>'to')::bigint, 0) as recomputed
          from cash_move as move join countersign on countersign.id = countersign_id
          left join lateral jsonb_array_elements(covers) as cover on cover->>'subject' = 'cash:' || move.kind
          -- Approvals of earlier versions named no amount.
          where covers <> '[]' and coalesce((cover->>'to')::bigint, 0) <> move.amount`,
  },
  {
    name: 'no sale was voided for more than was approved',
    sql: `select 'sale ' || sale.id as what, abs(sale.total) as kept,
      coalesce((cover->>'amount')::bigint, 0) as recomputed
          from sale_void join sale on sale.id = sale_id join countersign on countersign.id = countersign_id
          left join lateral jsonb_array_elements(covers) as cover on cover->>'subject' = 'sale'
          where covers <> '[]' and coalesce((cover->>'amount')::bigint, 0) < abs(sale.total)`,
  },
  {
    name: 'a correction moves in the books what it says',
    sql: `select 'correction ' || correction.id as what, abs(correction.amount) as kept,
                 coalesce(sum(entry.amount) filter (where entry.amount > 0), 0)::bigint as recomputed
          from tender_correction as correction
          left join ledger_event as event on event.correction_id = correction.id
          left join ledger_entry as entry on entry.event_id = event.id
          group by correction.id
          having coalesce(sum(entry.amount) filter (where entry.amount > 0), 0) <> abs(correction.amount)`,
  },
  {
    name: 'a code that was used reduced a line of its sale',
    sql: `select 'code ' || used.code || ' of sale ' || used.sale_id as what, sum(used.uses)::bigint as kept,
                 0::bigint as recomputed
          from offer_use as used
          where used.code is not null and not exists (
            select 1 from sale_line as line cross join jsonb_array_elements(line.records) as record
            where line.sale_id = used.sale_id and (record->>'offerId')::integer = used.offer_id)
          group by used.code, used.sale_id having sum(used.uses) <> 0`,
  },
  {
    name: 'card payments that were not paid out are in clearing',
    sql: `select 'terminal ' || terminal.name as what, coalesce(balance, 0)::bigint as kept,
      (taken - paid)::bigint as recomputed
          from terminal left join account_balance on account = 'card-clearing' and subject = 'terminal:' || terminal.id,
          lateral (select coalesce(sum(tender.amount + tender.tip), 0) as taken from tender
                   join payment_tender on payment_tender.id = tender.payment_tender_id
                   join standing_sale as sale on sale.id = tender.sale_id
                   where payment_tender.terminal_id = terminal.id) as sales,
          lateral (select coalesce(sum(gross), 0) as paid from settlement where terminal_id = terminal.id) as bank
          where coalesce(balance, 0) <> taken - paid`,
  },
  {
    name: 'no more came back of a sale than was sold and paid',
    sql: `select 'sale ' || sale.id as what, 0::bigint as kept,
      least(min(rest.quantity), sum(rest.net))::bigint as recomputed
          from sale cross join lateral lines_left(sale.id) as rest
          where sale.id in (select return_sale from sale_line where return_sale is not null)
          group by sale.id having min(rest.quantity) < 0 or sum(rest.net) < 0`,
  },
  {
    name: 'nothing is left of what a sale paid when all of it came back',
    sql: `select 'sale ' || sale.id as what, 0::bigint as kept, sum(rest.net) as recomputed
          from sale cross join lateral lines_left(sale.id) as rest
          where sale.id in (select return_sale from sale_line where return_sale is not null)
          group by sale.id having max(rest.quantity) = 0 and sum(rest.net) <> 0`,
  },
  {
    name: 'no payment gave back more than it took',
    sql: `select 'sale ' || rest.sale_id || ' payment ' || rest.position as what, 0::bigint as kept,
      rest.amount as recomputed
          from refunds_left((select array_agg(distinct refunds_sale) from (
            select refunds_sale from tender union select refunds_sale from payment_tender) as back
            where refunds_sale is not null)) as rest
          where rest.amount < 0`,
  },
  {
    name: 'a voided sale has left nothing in the ledger, the stock, or on cards',
    sql: `select 'sale ' || sale_id as what, 0::bigint as kept,
      (books.off + stock.off + cards.off)::bigint as recomputed
          from sale_void as gone, lateral (
            select coalesce(sum(abs(total)), 0) as off from (
              select sum(amount) as total from ledger_event as event join ledger_entry on event_id = event.id
              where event.sale_id = gone.sale_id and not is_cost(account)
                group by account, subject_now(subject)) as account) as books, lateral (
            select coalesce(sum(abs(total)), 0) as off from (
              select sum(quantity) as total from stock_move where sale_id = gone.sale_id group by item_id, place_id)
              as item) as stock, lateral (
            select coalesce(sum(abs(total)), 0) as off from (
              select sum(amount) as total from stored_value_move where sale_id = gone.sale_id group by stored_value_id)
              as card) as cards
          where gone.state = 'done' and books.off + stock.off + cards.off <> 0`,
  },
  {
    name: 'receipt numbers of a till run without gaps',
    sql: `select 'till ' || till.number as what, (next_receipt - 1)::bigint as kept, count(sale.id) as recomputed
          from till left join sale on sale.till_id = till.id
          group by till.id
          having count(sale.id) <> next_receipt - 1 or coalesce(max(sale.number), 0) <> next_receipt - 1`,
  },
  {
    name: "a drawer's cash account is what its shift expects",
    sql: `select 'till ' || till.number as what, coalesce(balance, 0)::bigint as kept,
                 (shift.opening_float + coalesce((
                   ${CASH_OF_SHIFT}), 0)
                   - coalesce((select sum(case kind when 'in' then -amount else amount end) from cash_move
                                 where shift_id = shift.id), 0))::bigint as recomputed
          from shift join till on till.id = shift.till_id
          left join account_balance on account = 'cash' and subject = 'till:' || till.id
          where shift.state = 'open' and coalesce(balance, 0) <> shift.opening_float + coalesce((
            ${CASH_OF_SHIFT}), 0)
            - coalesce((select sum(case kind when 'in' then -amount else amount end) from cash_move
                                 where shift_id = shift.id), 0)`,
  },
  {
    name: 'a closed drawer holds what its bag plan left',
    sql: `select 'till ' || till.number as what, coalesce(balance, 0)::bigint as kept,
                 (last.closing->'plan'->>'kept')::bigint as recomputed
          from till
          join lateral (select * from shift where till_id = till.id order by id desc limit 1) as last on true
          left join account_balance on account = 'cash' and subject = 'till:' || till.id
          where last.state = 'closed' and coalesce(balance, 0) <> (last.closing->'plan'->>'kept')::bigint`,
  },
];

type Found = Omit<Difference, 'check'>;

/**
 * Recomputes every kept figure from the events behind it, or those of some checks.
 * @returns what differs; empty when all ties out
 */
export async function verify(sql: Reader, checks = CHECKS): Promise<Difference[]> {
  const found: Difference[] = [];
  const pieces = checks.some(({ daily }) => daily) ? await piecesOf(sql, ALL_DAYS) : [];
  for (const { name, sql: statement, daily } of checks) {
    // One after the other: others have their turn between them.
    for (const { from, to } of daily ? pieces : [ALL_DAYS]) {
      const rows = daily ? await sql.search<Found>(statement, [from, to]) : await sql.query<Found>(statement);
      for (const row of rows) found.push({ check: name, ...row });
    }
  }
  return found;
}
