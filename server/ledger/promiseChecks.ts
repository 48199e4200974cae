import type { Check } from './check.ts';

/** What has to tie out of promises: their money, the goods that left, and what is set aside. */
export const PROMISE_CHECKS: readonly Check[] = [
  {
    name: 'what is held for a promise is the sum of its moves',
    sql: `select 'promise ' || kind || ' ' || number as what, held as kept, coalesce(summed, 0)::bigint as recomputed
          from promise left join (select promise_id, sum(amount) as summed from promise_move group by promise_id) as moves
            on promise_id = promise.id
          where held <> coalesce(summed, 0)`,
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
          where held <> coalesce(summed, 0)`,
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
          full join (select item_id, place_id, sum(case when cancelled_at is null and (not coming or arrived_at is not null)
                       then quantity - line.handed else 0 end) as summed
                     from promise_line as line join promise on promise.id = line.promise_id
                     where stocked group by item_id, place_id) as promised using (item_id, place_id)
          where coalesce(kept, 0) <> coalesce(summed, 0)`,
  },
];
