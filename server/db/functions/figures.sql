-- Whether a line is a sale: goods, work, fees. What the shop owes for it is none: gift cards, deposits, money for
-- accounts.
create or replace function is_sold(stored_value_id integer, account_id integer, promise_part text) returns boolean
language sql immutable parallel safe as $$
  select stored_value_id is null and account_id is null
    and (promise_part is null or promise_part not in ('deposit', 'used', 'back'))
$$;

-- What sales did, by kind and subject, as `day_figure` keeps it. Amounts of goods are without tax.
create or replace function figures_of(sales uuid[])
returns table (kind text, day date, till_id integer, hour smallint, subject text, count bigint, quantity bigint,
               amount bigint, more bigint)
language sql stable as $$
  with sold as materialized (
    select sale.id, sale.till_id, sale.staff_id, sale.business_date as day, sale.hour, sale.tax_mode, sale.customer_id,
      sale.exempt_reason, sale.donation, sale.fund_id, sale.finished_at
    from unnest(sales) as asked (id) join sale using (id)
  ), line as materialized (
    select sold.id, sold.till_id, sold.day, sold.hour, sold.staff_id, one.position, one.category_id, one.quantity,
      one.net, one.return_reason, one.records, one.stored_value_id, one.account_id, one.promise_part,
      is_sold(one.stored_value_id, one.account_id, one.promise_part) as goods,
      case sold.tax_mode when 'inside' then without_tax(one.net, one.taxes) else one.net end as amount
    from sold join sale_line as one on one.sale_id = sold.id
  ), cost as (
    select event.sale_id as id, move.position, sum(0 - move.cost) as cost
    from sold join ledger_event as event on event.sale_id = sold.id and event.kind = 'sale'
    join stock_move as move on move.event_id = event.id
    where coalesce(move.against, 'cost-of-goods') = 'cost-of-goods' group by 1, 2
  ), goods as materialized (
    select line.*, coalesce(cost.cost, 0) as cost
    from line left join cost on cost.id = line.id and cost.position = line.position where goods
  ), whole as materialized (
    select id, max(quantity) > 0 as sells, sum(quantity) as quantity, sum(amount) as amount, sum(cost) as cost
    from goods group by id
  ), record as (
    select goods.*, one->>'kind' as why_kind, (one->>'amount')::bigint as off,
      case when one->>'offerId' is not null then 'offer:' || (one->>'offerId')
           else (one->>'kind') || ':' || coalesce(one->>'why', '') end as about
    from goods, jsonb_array_elements(records) as one where goods.quantity > 0
  ), figure as (
    select 'sale' as kind, id, staff_id::text as subject, sells::integer as count, quantity, amount, cost as more
    from whole join sold using (id)
    union all
    select 'customer', whole.id, case when customer_id is null then 'none'
        when customer.added_at > finished_at - interval '1 day' then 'new' else 'known' end,
      sells::integer, quantity, amount, cost
    from whole join sold using (id) left join customer on customer.id = customer_id
    union all
    select 'category', id, category_id::text, 1, quantity, amount, cost from goods
    union all
    select 'return', id, coalesce(return_reason, ''), 1, 0 - quantity, 0 - amount, 0 - cost from goods
      where quantity < 0
    union all
    select 'off', id, about, 1, 0, 0 - off, amount from record
    union all
    select 'off-by', id, staff_id::text, 1, 0, 0 - off, amount from record where why_kind in ('discount', 'typed-price')
    union all
    select 'means', tender.sale_id, coalesce(type_id, (select min(id) from tender_type
      where tender_type.kind = 'cash'))::text, 1, 0, tender.amount, tip
    from sold join tender on tender.sale_id = sold.id
    union all
    select 'tax', sale_tax.sale_id, tax_rate_id::text, 1, 0, tax, base from sold
      join sale_tax on sale_tax.sale_id = sold.id
    union all
    select 'exempt', id, exempt_reason, sells::integer, 0, amount, 0 from whole join sold using (id)
      where exempt_reason is not null
    union all
    select 'donation', id, fund_id::text, 1, 0, donation, 0 from sold where fund_id is not null
    union all
    select 'value', line.id, stored_value.kind, 1, 0, net, 0
    from line join stored_value on stored_value.id = line.stored_value_id
    union all
    select 'deposit', id, case when account_id is not null then 'account' else promise_part end, 1, 0, net, 0
    from line where stored_value_id is null and not goods
  )
  select figure.kind, day, sold.till_id, sold.hour, subject, sum(count), sum(quantity)::bigint,
    sum(figure.amount)::bigint, sum(more)::bigint
  from figure join sold using (id) group by 1, 2, 3, 4, 5 order by 1, 2, 3, 4, 5
$$;

-- Means of payment that were put right: less of what was noted, more of what it was.
create or replace function figures_of_corrections(corrections uuid[])
returns table (kind text, day date, till_id integer, hour smallint, subject text, count bigint, quantity bigint,
               amount bigint, more bigint)
language sql stable as $$
  select 'means', sale.business_date, sale.till_id, sale.hour, type_id::text, sum(times), 0::bigint,
    sum(times * correction.amount)::bigint, 0::bigint
  from unnest(corrections) as asked (id) join tender_correction as correction using (id)
  join sale on sale.id = correction.sale_id
  cross join lateral (values (from_type, -1), (to_type, 1)) as changed (type_id, times)
  group by 1, 2, 3, 4, 5 order by 1, 2, 3, 4, 5
$$;

create or replace function figures_of_voids(sales uuid[])
returns table (kind text, day date, till_id integer, hour smallint, subject text, count bigint, quantity bigint,
               amount bigint, more bigint)
language sql stable as $$
  select 'void', sale.business_date, sale.till_id, sale.hour, done.staff_id::text, count(*), 0::bigint,
    sum(total)::bigint, 0::bigint
  from unnest(sales) as asked (id) join sale using (id) join sale_void as done on done.sale_id = sale.id
  group by 1, 2, 3, 4, 5 order by 1, 2, 3, 4, 5
$$;

-- The figures of all that happened on some days, from the sales themselves.
create or replace function figures_anew(first_day date, last_day date)
returns table (kind text, day date, till_id integer, hour smallint, subject text, count bigint, quantity bigint,
               amount bigint, more bigint)
language sql stable as $$
  select kind, day, till_id, hour, subject, sum(count)::bigint, sum(quantity)::bigint, sum(amount)::bigint,
    sum(more)::bigint from (
    select * from figures_of((select array_agg(id) from standing_sale
      where business_date between first_day and last_day))
    union all
    select * from figures_of_voids((select array_agg(sale.id) from sale join sale_void on sale_id = sale.id
      where state = 'done' and business_date between first_day and last_day))
    union all
    select * from figures_of_corrections((select array_agg(correction.id)
      from sale join tender_correction as correction on sale_id = sale.id
      where business_date between first_day and last_day))
  ) as figure group by 1, 2, 3, 4, 5
$$;
drop function if exists figures_anew();

-- Sales are counted, or with -1 taken out again. Their tills are locked. In plpgsql, which keeps the plan: each sale
-- comes here. The plan goes by keys, also where it is made while a table has few rows: it is kept while they grow.
create or replace function count_figures(sales uuid[], times integer) returns void language plpgsql
set enable_seqscan = off as $$
begin
  insert into day_figure (kind, day, till_id, hour, subject, count, quantity, amount, more)
  select kind, day, till_id, hour, subject, times * count, times * quantity, times * amount, times * more
    from figures_of(sales)
  on conflict (kind, day, till_id, hour, subject) do update set count = day_figure.count + excluded.count,
    quantity = day_figure.quantity + excluded.quantity, amount = day_figure.amount + excluded.amount,
    more = day_figure.more + excluded.more;
end $$;

create or replace function count_void(of_sale uuid) returns void language sql as $$
  select count_figures(array[of_sale], -1);
  insert into day_figure (kind, day, till_id, hour, subject, count, quantity, amount, more)
  select * from figures_of_voids(array[of_sale])
  on conflict (kind, day, till_id, hour, subject) do update set count = day_figure.count + excluded.count,
    amount = day_figure.amount + excluded.amount
$$;

create or replace function count_correction(correction uuid) returns void language sql as $$
  insert into day_figure (kind, day, till_id, hour, subject, count, quantity, amount, more)
  select * from figures_of_corrections(array[correction])
  on conflict (kind, day, till_id, hour, subject) do update set count = day_figure.count + excluded.count,
    amount = day_figure.amount + excluded.amount
$$;

-- Counts what happened before figures were kept.
create or replace function lay_figures() returns void language sql as $$
  insert into day_figure (kind, day, till_id, hour, subject, count, quantity, amount, more)
  select * from figures_anew('-infinity', 'infinity') where not exists (select 1 from day_figure)
$$;
