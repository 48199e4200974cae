import type { Check } from './check.ts';

/** Figures of each day; goods of standing sales without tax, in the books and in the figures of their till and day. */
export const FIGURE_CHECKS: readonly Check[] = [
  {
    name: 'figures of each day are those of its sales',
    sql: `select concat_ws(' ', words, 'of', kind, subject, day, 'till ' || till_id, hour || ':00') as what,
            number.kept, number.recomputed
          from (select * from day_figure where day between $1::date and $2::date) as kept
          full join figures_anew($1::date, $2::date) as anew using (kind, day, till_id, hour, subject)
          cross join lateral (values
            ('number', coalesce(kept.count, 0)::bigint, coalesce(anew.count, 0)::bigint),
            ('quantity', coalesce(kept.quantity, 0), coalesce(anew.quantity, 0)),
            ('amount', coalesce(kept.amount, 0), coalesce(anew.amount, 0)),
            ('cost or tip', coalesce(kept.more, 0), coalesce(anew.more, 0))) as number (words, kept, recomputed)
          where number.kept <> number.recomputed`,
    daily: true,
  },
  {
    name: 'what was sold by day and till is what the books say',
    sql: `select concat_ws(' ', 'till', till_id, day) as what, coalesce(kept, 0)::bigint as kept,
      coalesce(booked, 0)::bigint as recomputed
          from (select till_id, day, sum(amount) as kept from day_figure
                where kind = 'sale' and day between $1::date and $2::date group by 1, 2) as figure
          full join (select sale.till_id, business_date as day, sum(0 - entry.amount) as booked
                     from standing_sale as sale join ledger_event as event on event.sale_id = sale.id
                       and event.kind = 'sale'
                     join ledger_entry as entry on entry.event_id = event.id
                       and account in ('sales', 'returns', 'discounts')
                     where business_date between $1::date and $2::date
                     group by 1, 2) as books using (till_id, day)
          where coalesce(kept, 0) <> coalesce(booked, 0)`,
    daily: true,
  },
  {
    name: 'what goods of a day cost is what the books say of its sales',
    sql: `select concat_ws(' ', 'till', till_id, day) as what, coalesce(kept, 0)::bigint as kept,
      coalesce(booked, 0)::bigint as recomputed
          from (select till_id, day, sum(more) as kept from day_figure
                where kind = 'sale' and day between $1::date and $2::date group by 1, 2) as figure
          full join (select sale.till_id, business_date as day, sum(entry.amount) as booked
                     from standing_sale as sale join ledger_event as event on event.sale_id = sale.id
                       and event.kind = 'sale'
                     join ledger_entry as entry on entry.event_id = event.id and account = 'cost-of-goods'
                     where business_date between $1::date and $2::date
                     group by 1, 2) as books using (till_id, day)
          where coalesce(kept, 0) <> coalesce(booked, 0)`,
    daily: true,
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
