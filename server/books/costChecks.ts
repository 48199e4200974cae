import type { Check } from './check.ts';

/** What stock is worth follows from its moves, and the books say the same. */
export const COST_CHECKS: readonly Check[] = [
  {
    name: 'what lies at a place is what its moves left there of each layer, in its place',
    // The square of where spans begin and end tells places in a layer apart that are equally long.
    sql: `select 'layer ' || layer_id || ' at place ' || place_id as what, coalesce(held.quantity, 0)::bigint as kept,
                 coalesce(moved.quantity, 0)::bigint as recomputed
          from (select place_id, layer_id, sum(upto - after) as quantity,
            sum(upto::numeric * upto - after::numeric * after) as where_in
                from stock_held group by 1, 2) as held
          full join (select place_id, layer_id, sum(quantity) as quantity,
                       sum(sign(quantity) * (upto::numeric * upto
                         - (upto - abs(quantity))::numeric * (upto - abs(quantity)))) as where_in
                     from stock_move where layer_id is not null group by 1, 2) as moved using (place_id, layer_id)
          where (coalesce(held.quantity, 0), coalesce(held.where_in, 0)) <> (coalesce(moved.quantity, 0),
            coalesce(moved.where_in, 0))`,
  },
  {
    name: 'no part of a layer lies at two places',
    sql: `select 'layer ' || layer_id as what, before::bigint as kept, after as recomputed
          from (select layer_id, after, max(upto) over (partition by layer_id order by after, upto
                  rows between unbounded preceding and 1 preceding) as before from stock_held) as span
          where before > after`,
  },
  {
    name: 'no more of a layer lies somewhere than came',
    sql: `select 'layer ' || layer.id as what, layer.quantity as kept, max(stock_held.upto)::bigint as recomputed
          from stock_layer as layer join stock_held on stock_held.layer_id = layer.id
          group by layer.id having max(stock_held.upto) > layer.quantity`,
  },
  {
    name: 'what is owed of an item is what left without a layer',
    sql: `select 'item ' || item_id || ' at place ' || place_id as what, coalesce(owed, 0)::bigint as kept,
                 coalesce(moved, 0)::bigint as recomputed
          from (select item_id, place_id, sum(upto - after) as owed from stock_debt group by 1, 2) as debt
          full join (select item_id, place_id, -sum(quantity) as moved from stock_move
                     where layer_id is null and event_id is not null group by 1, 2) as moves using (item_id, place_id)
          where coalesce(owed, 0) <> coalesce(moved, 0)`,
  },
  {
    name: 'stock levels are what lies there less what is owed, and nothing is owed beside goods',
    sql: `select 'item ' || item_id || ' at place ' || place_id as what, coalesce(level.quantity, 0)::bigint as kept,
                 (coalesce(held, 0) - coalesce(owed, 0))::bigint as recomputed
          from stock_level as level
          full join (select item_id, place_id, sum(upto - after) as held from stock_held
            group by 1, 2) as there using (item_id, place_id)
          full join (select item_id, place_id, sum(upto - after) as owed from stock_debt
            group by 1, 2) as debt using (item_id, place_id)
          where coalesce(level.quantity, 0) <> coalesce(held, 0) - coalesce(owed, 0) or held > 0 and owed > 0`,
  },
  {
    name: 'stock in the books is what its goods cost, per place',
    sql: `select subject as what, coalesce(booked, 0)::bigint as kept, coalesce(worth, 0)::bigint as recomputed
          from (select subject, sum(amount) as booked from ledger_entry where account = 'stock' group by 1) as books
          full join (
            select 'place:' || place_id as subject, sum(cost) as worth from (
              select stock_held.place_id,
                layer_cost(cost, layer.quantity, upto) - layer_cost(cost, layer.quantity, after) as cost
              from stock_held join stock_layer as layer on layer.id = layer_id
              union all
              select place_id, -debt_cost(layer_id, unit_cost, after, upto) from stock_debt) as part
            group by 1) as goods using (subject)
          where coalesce(booked, 0) <> coalesce(worth, 0)`,
  },
  {
    name: 'what goods cost that left is posted at what they turned out to cost',
    sql: `select account || ' ' || subject as what, coalesce(booked, 0)::bigint as kept,
      coalesce(worth, 0)::bigint as recomputed
          from (select account, subject, sum(amount) as booked from ledger_entry
                where account in ('cost-of-goods', 'shrinkage', 'own-use', 'stock-on-way') group by 1, 2) as books
          full join (
            select against as account, subject, sum(cost) as worth from (
              select against, move.subject, -sign(move.quantity) * (layer_cost(layer.cost, layer.quantity, upto)
                - layer_cost(layer.cost, layer.quantity, upto - abs(move.quantity))) as cost
              from stock_move as move join stock_layer as layer on layer.id = layer_id where move.quantity <> 0
              union all
              select against, move.subject, debt_cost(debt.layer_id, unit_cost, after, debt.upto)
              from stock_debt as debt join stock_move as move on move.id = move_id) as part
            where against in ('cost-of-goods', 'shrinkage', 'own-use', 'stock-on-way')
            group by 1, 2) as goods using (account, subject)
          where coalesce(booked, 0) <> coalesce(worth, 0)`,
  },
  {
    name: 'an event has posted what its moves cost',
    sql: `select 'event ' || event_id as what, coalesce(booked, 0)::bigint as kept,
      coalesce(moved, 0)::bigint as recomputed
          from (select event_id, subject, sum(amount) as booked
                from ledger_event as event join ledger_entry on event_id = event.id
                where account = 'stock' and at >= $1::date and at < $2::date + 1 group by 1, 2) as books
          full join (select event_id, 'place:' || place_id as subject, sum(cost) as moved
                     from ledger_event as event join stock_move on event_id = event.id
                     where event.at >= $1::date and event.at < $2::date + 1
                     group by 1, 2) as moves using (event_id, subject)
          where coalesce(booked, 0) <> coalesce(moved, 0)`,
    daily: true,
  },
];
