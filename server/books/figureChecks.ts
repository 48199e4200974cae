import type { Check } from './check.ts';

/** What is kept of each day against what its sales say. */
const differing = (number: 'count' | 'quantity' | 'amount' | 'more', words: string): Check => ({
  name: `${words} of each day are those of its sales`,
  sql: `select concat_ws(' ', kind, subject, day, 'till ' || till_id, hour || ':00') as what,
          coalesce(kept.${number}, 0)::bigint as kept, coalesce(anew.${number}, 0)::bigint as recomputed
        from day_figure as kept full join figures_anew() as anew using (kind, day, till_id, hour, subject)
        where coalesce(kept.${number}, 0) <> coalesce(anew.${number}, 0)`,
});

/** Goods of standing sales without tax, in the books and in the figures of their till and day. */
export const FIGURE_CHECKS: readonly Check[] = [
  differing('count', 'numbers'),
  differing('quantity', 'quantities'),
  differing('amount', 'amounts'),
  differing('more', 'costs and tips'),
  {
    name: 'what was sold by day and till is what the books say',
    sql: `select concat_ws(' ', 'till', till_id, day) as what, coalesce(kept, 0)::bigint as kept,
      coalesce(booked, 0)::bigint as recomputed
          from (select till_id, day, sum(amount) as kept from day_figure where kind = 'sale' group by 1, 2) as figure
          full join (select sale.till_id, business_date as day, sum(0 - entry.amount) as booked
                     from standing_sale as sale join ledger_event as event on event.sale_id = sale.id
                       and event.kind = 'sale'
                     join ledger_entry as entry on entry.event_id = event.id
                       and account in ('sales', 'returns', 'discounts')
                     group by 1, 2) as books using (till_id, day)
          where coalesce(kept, 0) <> coalesce(booked, 0)`,
  },
  {
    name: 'what goods of a day cost is what the books say of its sales',
    sql: `select concat_ws(' ', 'till', till_id, day) as what, coalesce(kept, 0)::bigint as kept,
      coalesce(booked, 0)::bigint as recomputed
          from (select till_id, day, sum(more) as kept from day_figure where kind = 'sale' group by 1, 2) as figure
          full join (select sale.till_id, business_date as day, sum(entry.amount) as booked
                     from standing_sale as sale join ledger_event as event on event.sale_id = sale.id
                       and event.kind = 'sale'
                     join ledger_entry as entry on entry.event_id = event.id and account = 'cost-of-goods'
                     group by 1, 2) as books using (till_id, day)
          where coalesce(kept, 0) <> coalesce(booked, 0)`,
  },
  {
    name: 'figures by category and by customer add up to those of the day',
    sql: `select concat_ws(' ', 'till', till_id, day) as what, whole as kept, part as recomputed from (
            select till_id, day, coalesce(sum(amount) filter (where kind = 'sale'), 0)::bigint as whole,
              coalesce(sum(amount) filter (where kind = part.name), 0)::bigint as part
            from day_figure cross join (values ('category'), ('customer')) as part (name)
            group by till_id, day, part.name) as sums where whole <> part`,
  },
];
