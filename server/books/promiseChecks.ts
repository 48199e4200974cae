import type { Check } from './check.ts';

/** What has to tie out of promises: their money, the goods that left, and what is set aside. */
export const PROMISE_CHECKS: readonly Check[] = [
  {
    name: 'what is held for a promise is the sum of its moves',
    sql: `select 'promise ' || kind || ' ' || number as what, held as kept, coalesce(summed, 0)::bigint as recomputed
          from promise left join (select promise_id, sum(amount) as summed from promise_move
            group by promise_id) as moves
            on promise_id = promise.id
          where held <> coalesce(summed, 0)`,
  },
  {
    name: 'nothing is held for a promise of which nothing waits',
    sql: `select 'promise ' || kind || ' ' || number as what, held as kept, 0::bigint as recomputed
          from promise where held <> 0 and (handed = units or cancelled_at is not null)`,
  },
  {
    name: 'what was paid, handed over and is left of a promise follows from its moves and lines',
    sql: `select 'promise ' || kind || ' ' || number as what, kept, recomputed
          from promise
          join (select promise_id, sum(quantity) as units, sum(handed) as handed,
                       sum(net + tax - round((net + tax)::numeric * handed / quantity)) as rest
                from promise_line group by promise_id) as lines on lines.promise_id = promise.id
          left join (select promise_id, sum(amount) filter (where kind = 'deposit'
            or (kind = 'void' and amount < 0)) as paid
                     from promise_move group by promise_id) as moves on moves.promise_id = promise.id
          cross join lateral (values (promise.units, lines.units::bigint), (promise.handed, lines.handed::bigint),
            (promise.rest, lines.rest::bigint), (promise.paid, coalesce(moves.paid, 0)::bigint)) as one (kept,
            recomputed)
          where kept <> recomputed`,
  },
  {
    name: 'the books hold for each promise what its moves say',
    sql: `select 'promise ' || kind || ' ' || number as what, coalesce(-summed, 0)::bigint as kept, held as recomputed
          from promise left join (select subject, sum(amount) as summed from ledger_entry
                                  where account = 'customer-deposits' group by subject) as booked
            on subject = 'promise:' || promise.id
          where held <> coalesce(-summed, 0)`,
  },
  {
    name: 'no account of deposits belongs to no promise',
    sql: `select subject as what, sum(amount)::bigint as kept, 0::bigint as recomputed from ledger_entry
          where account = 'customer-deposits'
            and not exists (select 1 from promise where 'promise:' || id = subject)
          group by subject having sum(amount) <> 0`,
  },
  {
    name: 'deposits paid for a promise were used, kept, given back or are held',
    sql: `select 'promise ' || kind || ' ' || number as what, held as kept, coalesce(summed, 0)::bigint as recomputed
          from promise left join (select promise_id, sum(net) as summed
            from sale_line where promise_part in ('deposit', 'used', 'back')
              and not exists (select 1 from sale_void where sale_void.sale_id = sale_line.sale_id and state = 'done')
            group by promise_id) as lines on promise_id = promise.id
          left join (select promise_id, sum(amount) as there from promise_move where sale_id is null
            group by promise_id) as moves on moves.promise_id = promise.id
          where held <> coalesce(summed, 0) + coalesce(there, 0)`,
  },
  {
    name: 'what a channel owes is what customers paid there, less what went back and what it has paid out',
    sql: `select 'channel ' || channel.name as what, coalesce(booked, 0)::bigint as kept,
                 (coalesce(moved, 0) - coalesce(paid_out, 0))::bigint as recomputed
          from channel
          left join (select channel_id, sum(amount) as moved from promise_move group by channel_id) as moves
            on moves.channel_id = channel.id
          left join (select channel_id, sum(gross) as paid_out from channel_settlement group by channel_id) as settled
            on settled.channel_id = channel.id
          left join (select subject, sum(amount) as booked from ledger_entry where account = 'channel-clearing'
                     group by subject) as books on subject = 'channel:' || channel.id
          where coalesce(booked, 0) <> coalesce(moved, 0) - coalesce(paid_out, 0)`,
  },
  {
    name: 'what is owed to a partner is its part of what it delivered, less what it passed on here and what it was paid',
    sql: `select 'partner ' || partner.name as what, coalesce(booked, 0)::bigint as kept,
                 (coalesce(delivered, 0) - coalesce(passed, 0) - coalesce(paid, 0))::bigint as recomputed
          from partner
          left join (select partner_id, sum(part) as delivered from relay_try where state = 'delivered'
            group by 1) as tries
            on tries.partner_id = partner.id
          left join (select partner_id, sum(amount) as passed from promise_move group by 1) as moves
            on moves.partner_id = partner.id
          left join (select partner_id, sum(amount) as paid from partner_settlement group by 1) as settled
            on settled.partner_id = partner.id
          left join (select subject, -sum(amount) as booked from ledger_entry where account = 'partner-clearing'
                     group by subject) as books on subject = 'partner:' || partner.id
          where coalesce(booked, 0) <> coalesce(delivered, 0) - coalesce(passed, 0) - coalesce(paid, 0)`,
  },
  {
    name: 'what a partner was paid is what was settled',
    sql: `select 'settlement ' || id as what, amount as kept, recomputed from (
            select settled.id, amount, (coalesce((select sum(part) from relay_try where settlement_id = settled.id), 0)
              - coalesce((select sum(move.amount) from partner_settlement_move
                join promise_move as move on move.id = move_id
                where settlement_id = settled.id), 0))::bigint as recomputed
            from partner_settlement as settled) as settlement
          where amount <> recomputed`,
  },
  {
    name: 'a relay stands as its last try does',
    sql: `select 'promise relay ' || number as what, 0::bigint as kept, 1::bigint as recomputed
          from promise join lateral (select state from relay_try where promise_id = promise.id
            order by nth desc limit 1) as last on true
          where kind = 'relay' and relay_state <> case last.state when 'withdrawn' then 'refused' else last.state end`,
  },
  {
    name: 'what was handed over of promised goods is what sales say',
    sql: `select 'promise ' || kind || ' ' || promise.number || ' line ' || line.position as what, line.handed as kept,
                 coalesce(gone, 0)::bigint as recomputed
          from promise_line as line join promise on promise.id = line.promise_id
          left join (select promise_id, promise_position, sum(quantity) as gone from sale_line
                     where promise_part = 'goods' and not exists (
                       select 1 from sale_void where sale_void.sale_id = sale_line.sale_id and state = 'done')
                     group by promise_id, promise_position) as sold
            on sold.promise_id = line.promise_id and promise_position = line.position
          where line.handed <> coalesce(gone, 0)`,
  },
  {
    name: 'what is set aside of an item is what open promises say',
    sql: `select 'item ' || item_id || ' at place ' || place_id as what, coalesce(kept, 0)::bigint as kept,
                 coalesce(summed, 0)::bigint as recomputed
          from (select item_id, place_id, set_aside as kept from stock_level) as level
          full join (select item_id, line.place_id, sum(case when cancelled_at is null
            and (not coming or arrived_at is not null)
                       and not sent then quantity - line.handed - line.short else 0 end) as summed
                     from promise_line as line join promise on promise.id = line.promise_id
                     where stocked group by item_id, line.place_id) as promised using (item_id, place_id)
          where coalesce(kept, 0) <> coalesce(summed, 0)`,
  },
  {
    name: 'what is on the way for an order left its place and has not arrived',
    sql: `select 'promise ' || coalesce(going.promise_id, moved.promise_id) || ' item ' || item_id as what,
                 coalesce(going.quantity, 0)::bigint as kept, coalesce(moved.quantity, 0)::bigint as recomputed
          from (select promise_id, item_id, sum(quantity) as quantity from promise_line where sent and stocked
            group by 1, 2) as going
          full join (select promise_id, item_id, -sum(quantity) as quantity from stock_move
                     where promise_id is not null group by 1, 2) as moved using (promise_id, item_id)
          where coalesce(going.quantity, 0) <> coalesce(moved.quantity, 0)`,
  },
  {
    name: 'how far an order is follows from its lines',
    sql: `select 'promise ' || kind || ' ' || promise.number as what, kept, recomputed
          from promise
          join (select promise_id, sum(short) as short,
                       coalesce(sum(quantity - handed) filter (where way is not null
                         and not (picked >= quantity and not sent
                         and (way <> 'collect' or place_id = collect_place))), 0) as unready,
                       coalesce(bool_or(way = 'ship' and handed < quantity), false) as ships
                from promise_line left join order_handover using (promise_id) group by promise_id) as lines
            on lines.promise_id = promise.id
          cross join lateral (values (promise.short, lines.short::bigint), (promise.unready, lines.unready::bigint),
            (promise.ships::integer, lines.ships::integer)) as one (kept, recomputed)
          where kept <> recomputed`,
  },
];
