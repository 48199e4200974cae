-- Points of customers, in lots. Whoever moves points holds the customer's row, weakly enough for others to refer to
-- it; the balance, what is left in the lots and the moves are changed together.

create or replace function points_day(at_time timestamptz) returns date language sql stable as $$
  select (at_time at time zone timezone)::date from shop
$$;

-- What so many points are worth in the books, in minor units; points that are owed are worth nothing.
create or replace function points_value(points bigint) returns bigint language sql stable as $$
  select floor(greatest(points, 0)::numeric * points_worth * points_use / 1000000000000)::bigint from shop
$$;

-- Brings what the books hold for the points of some customers to what these are worth now, in one event; of all,
-- where none are named.
create or replace function book_points(of_customers integer[], at_time timestamptz) returns void language plpgsql as $$
declare
  change bigint;
begin
  with due as (
    select id, points_value(points) as worth, points_booked as booked from customer
    where (of_customers is null or id = any (of_customers)) and points_value(points) <> points_booked
  ), booked as (
    update customer set points_booked = worth from due where customer.id = due.id returning worth - booked as change
  )
  select sum(booked.change) into change from booked;
  if change <> 0 then
    perform post_transfer('points', at_time, change, '', '');
  end if;
end $$;

-- Notes a move; what it does to lots is up to whoever asks.
create or replace function note_points(of_customer integer, change bigint, why text, of_sale uuid, at_time timestamptz,
                                       with_return uuid, by_staff integer, said text)
returns bigint language plpgsql as $$
declare
  move bigint;
begin
  update customer set points = points + change where id = of_customer;
  insert into points_move (customer_id, amount, reason, sale_id, at, back_with, staff_id, words)
  values (of_customer, change, why, of_sale, at_time, with_return, by_staff, coalesce(said, '')) returning id into move;
  perform book_points(array[of_customer], at_time);
  return move;
end $$;

-- What is left in lots whose day is over ends; of one customer, or of all.
create or replace function end_points(today date, at_time timestamptz, of_customer integer default null)
returns integer language plpgsql as $$
declare
  lot record;
  ended integer := 0;
begin
  for lot in
    select * from points_lot where ends_on < today and remaining > 0
      and (of_customer is null or customer_id = of_customer) order by customer_id, id for update
  loop
    insert into points_use (move_id, lot_id, amount)
    values (note_points(lot.customer_id, -lot.remaining, 'ended', null, at_time, null, null, null), lot.id,
      -lot.remaining);
    update points_lot set remaining = 0 where id = lot.id;
    ended := ended + 1;
  end loop;
  return ended;
end $$;

-- Gives points: what was to be made good is filled first, the rest is a lot of its own.
create or replace function add_points(of_customer integer, given bigint, why text, of_sale uuid, at_time timestamptz,
                                      ends date, by_staff integer default null, said text default '')
returns void language plpgsql as $$
declare
  move bigint;
  debt record;
  part bigint;
  lot_id bigint;
begin
  perform 1 from customer where id = of_customer for no key update;
  move := note_points(of_customer, given, why, of_sale, at_time, null, by_staff, said);
  for debt in
    select id, remaining from points_lot where customer_id = of_customer and remaining < 0 order by id for update
  loop
    part := least(given, -debt.remaining);
    exit when part = 0;
    update points_lot set remaining = remaining + part where id = debt.id;
    insert into points_use (move_id, lot_id, amount) values (move, debt.id, part);
    given := given - part;
  end loop;
  if given > 0 then
    insert into points_lot (customer_id, amount, remaining, ends_on, sale_id, at)
    values (of_customer, given, given, ends, of_sale, at_time) returning id into lot_id;
    insert into points_use (move_id, lot_id, amount) values (move, lot_id, given);
  end if;
end $$;

-- Points of a customer that other baskets hold while they are being paid.
create or replace function points_claimed(of_customer integer, but_basket uuid, at_time timestamptz)
returns bigint language sql stable as $$
  select coalesce(sum(points), 0)::bigint from points_claim
  where customer_id = of_customer and basket_id is distinct from but_basket and claim_stands(basket_id, at, at_time)
$$;

-- Takes points from the lot that ends first; those of a sale first where they are taken back for it. Only what is taken
-- back may go below zero; nobody else takes what a basket holds that is being paid.
create or replace function take_points(of_customer integer, taken bigint, why text, of_sale uuid, at_time timestamptz,
                                       may_owe boolean, with_return uuid default null, by_staff integer default null,
                                       said text default '')
returns void language plpgsql as $$
declare
  move bigint;
  lot record;
  part bigint;
  lot_id bigint;
begin
  perform 1 from customer where id = of_customer for no key update;
  perform end_points(points_day(at_time), at_time, of_customer);
  if not may_owe and not exists (
    select 1 from customer
    where id = of_customer and points - points_claimed(of_customer, of_sale, at_time) >= taken) then
    raise exception 'points' using errcode = 'MH005';
  end if;
  move := note_points(of_customer, -taken, why, of_sale, at_time, with_return, by_staff, said);
  for lot in
    select id, remaining from points_lot where customer_id = of_customer and remaining > 0
    order by (may_owe and sale_id is not distinct from of_sale) desc, ends_on nulls last, id for update
  loop
    part := least(taken, lot.remaining);
    exit when part = 0;
    update points_lot set remaining = remaining - part where id = lot.id;
    insert into points_use (move_id, lot_id, amount) values (move, lot.id, -part);
    taken := taken - part;
  end loop;
  if taken > 0 then
    insert into points_lot (customer_id, amount, remaining, sale_id, at)
    values (of_customer, -taken, -taken, of_sale, at_time) returning id into lot_id;
    insert into points_use (move_id, lot_id, amount) values (move, lot_id, -taken);
  end if;
end $$;

-- Puts points back into the lots from which moves of a sale took them, the last one first; a lot that has ended
-- meanwhile can be used for some more days. What was owed is owed no more.
create or replace function put_points_back(of_customer integer, given bigint, why text, of_sale uuid,
                                           at_time timestamptz, taken_as text[], with_return uuid default null)
returns void language plpgsql as $$
declare
  move bigint;
  lot record;
  part bigint;
begin
  perform 1 from customer where id = of_customer for no key update;
  move := note_points(of_customer, given, why, of_sale, at_time, with_return, null, null);
  for lot in
    select used.lot_id as id, -sum(used.amount) as taken, max(points_lot.ends_on) as ends_on
    from points_use as used join points_move as past on past.id = used.move_id
      join points_lot on points_lot.id = used.lot_id
    where past.sale_id = of_sale and past.reason = any (taken_as || why)
    group by used.lot_id having sum(used.amount) < 0 order by max(points_lot.ends_on) desc nulls first, used.lot_id desc
  loop
    part := least(given, lot.taken);
    exit when part = 0;
    update points_lot set remaining = remaining + part,
      ends_on = case when ends_on < points_day(at_time)
                     then points_day(at_time) + (select points_back_days from shop)::integer else ends_on end
    where id = lot.id;
    insert into points_use (move_id, lot_id, amount) values (move, lot.id, part);
    given := given - part;
  end loop;
  if given > 0 then
    raise exception 'more points would go back than were taken';
  end if;
end $$;

-- How many times more the lines of a sale give for a customer on its day, in hundredths, by their position; lines
-- that give no more are left out.
create or replace function more_points(of_sale uuid, of_customer integer) returns jsonb language sql stable as $$
  select coalesce(jsonb_object_agg(position, times), '{}') from (
    select line.position, max(more.times) as times
    from sale join sale_line as line on line.sale_id = sale.id join item on item.id = line.item_id
    join points_more as more on more.ended_at is null
      and (more.category_id is null or more.category_id = item.category_id)
      and (more.weekdays is null or extract(isodow from business_date)::smallint = any (more.weekdays))
      and business_date between coalesce(more.from_day, business_date) and coalesce(more.to_day, business_date)
      and (more.group_id is null or exists (
        select 1 from customer_membership where customer_id = of_customer and group_id = more.group_id))
    where sale.id = of_sale group by line.position) as given
$$;

-- What a sale earns as it stands: of the goods that are left of it, without tax, gift cards, deposits and fees, more
-- for some lines, rounded down once for the whole sale. Nothing where it was voided.
create or replace function points_due(of_sale uuid) returns bigint language sql stable as $$
  select case when exists (select 1 from sale_void where sale_id = of_sale and state = 'done') then 0 else
    floor(greatest(0, (
      select coalesce(sum((rest.net - case when sale.tax_mode = 'inside' and line.net <> 0
                                      then rest.net * line.tax / line.net else 0 end)
                          * coalesce((points.more->>line.position::text)::integer, 100)), 0)
      from (
        select left_over.net, left_over.position from lines_left(of_sale) as left_over
        union all
        -- Goods that came back without the sale that they were bought with.
        select back.net, back.position from sale_line as back
        where back.sale_id = of_sale and back.quantity < 0 and back.return_sale is null and back.promise_part is null
          and back.account_id is null
      ) as rest
      join (select sale_line.position, net, coalesce((select sum((one->>'tax')::bigint)
              from jsonb_array_elements(taxes) as one), 0)::bigint as tax
            from sale_line where sale_id = of_sale) as line using (position)
    ) * points.given) / points.per / 100)::bigint end
  from sale join sale_points as points on points.sale_id = sale.id where sale.id = of_sale
$$;

-- Brings the points of a sale to what it earns as it stands: after it was finished, after goods came back, when it or a
-- return from it is voided, and when somebody joins afterwards.
create or replace function settle_points(of_sale uuid, at_time timestamptz, with_return uuid default null)
returns void language plpgsql as $$
declare
  mine record;
  due bigint;
  had bigint;
begin
  select coalesce(customer.merged_into, customer.id) as customer, customer.forgotten_at, months, sale.business_date
  into mine
  from sale_points as points join customer on customer.id = points.customer_id join sale on sale.id = points.sale_id
  where points.sale_id = of_sale;
  if not found or mine.forgotten_at is not null then
    return;
  end if;
  perform 1 from customer where id = mine.customer for no key update;
  due := points_due(of_sale);
  select coalesce(sum(amount), 0) into had from points_move
  where sale_id = of_sale and reason in ('earned', 'taken back', 'earned again');
  if due > had and exists (select 1 from points_move where sale_id = of_sale and reason = 'taken back') then
    perform put_points_back(mine.customer, due - had, 'earned again', of_sale, at_time, array['taken back'],
      with_return);
  elsif due > had then
    perform add_points(mine.customer, due - had, 'earned', of_sale, at_time,
      case when mine.months > 0 then (mine.business_date + make_interval(months => mine.months))::date end);
  elsif due < had then
    perform take_points(mine.customer, had - due, 'taken back', of_sale, at_time, true, with_return);
  end if;
end $$;

-- A sale gives points to its customer, where the shop gives any.
create or replace function earn_points(of_sale uuid, at_time timestamptz) returns void language plpgsql as $$
begin
  insert into sale_points (sale_id, customer_id, given, per, months, at, more)
  select sale.id, sale.customer_id, points_given, points_per, points_months, at_time,
         more_points(sale.id, sale.customer_id)
  from sale, shop where sale.id = of_sale and sale.customer_id is not null and points_on;
  perform settle_points(of_sale, at_time);
end $$;

-- How many of the points that were given for money off a sale still pays with: for what is left of its goods, rounded
-- down.
create or replace function points_off_due(of_sale uuid) returns bigint language sql stable as $$
  select case when exists (select 1 from sale_void where sale_id = of_sale and state = 'done') then 0 else
    -- Thirds that make a whole are one.
    floor(round(coalesce((select -sum(amount) from points_move where sale_id = of_sale and reason = 'money off')
      * (select sum(paid.amount * rest.quantity / line.quantity) / sum(paid.amount)
         from sale_line as line join lines_left(of_sale) as rest using (position)
         cross join lateral (
           select sum((record->>'amount')::numeric) as amount from jsonb_array_elements(line.records) as record
           where record->>'kind' = 'points') as paid
         where line.sale_id = of_sale and paid.amount <> 0), 0), 6))::bigint end
$$;

-- Brings the points that a sale was paid with to what it still takes of them: after goods came back, and when it or a
-- return from it is voided.
create or replace function settle_points_off(of_sale uuid, at_time timestamptz, with_return uuid default null)
returns void language plpgsql as $$
declare
  buyer integer;
  due bigint;
  had bigint;
begin
  select coalesce(customer.merged_into, customer.id) into buyer
  from points_move as move join customer on customer.id = move.customer_id
  where move.sale_id = of_sale and move.reason = 'money off' and customer.forgotten_at is null;
  if not found then
    return;
  end if;
  perform 1 from customer where id = buyer for no key update;
  due := points_off_due(of_sale);
  select -sum(amount) into had from points_move
  where sale_id = of_sale and reason in ('money off', 'money off given back', 'money off taken again');
  if had > due then
    perform put_points_back(buyer, had - due, 'money off given back', of_sale, at_time,
                            array['money off', 'money off taken again'], with_return);
  elsif had < due then
    perform take_points(buyer, due - had, 'money off taken again', of_sale, at_time, false, with_return);
  end if;
end $$;

-- Takes away whatever points somebody has or owes.
create or replace function drop_points(of_customer integer, why text, at_time timestamptz)
returns void language plpgsql as $$
declare
  lot record;
begin
  for lot in select id, remaining from points_lot where customer_id = of_customer and remaining <> 0
    order by id for update
  loop
    insert into points_use (move_id, lot_id, amount)
    values (note_points(of_customer, -lot.remaining, why, null, at_time, null, null, null), lot.id, -lot.remaining);
    update points_lot set remaining = 0 where id = lot.id;
  end loop;
end $$;

-- What a sale did to the points of its customer, and what they had when it was done; nothing where it did nothing.
create or replace function points_of_sale(of_sale uuid) returns jsonb language plpgsql stable as $$
begin
  return (select jsonb_build_object('customerId', customer.id, 'customer', customer.name,
    'earned', coalesce(sum(move.amount) filter (where reason in ('earned', 'taken back', 'earned again')), 0),
    'used', coalesce(0 - sum(move.amount) filter (where reason in ('reward', 'given back', 'taken again',
      'money off', 'money off given back', 'money off taken again')), 0),
    'balance', (select coalesce(sum(amount), 0) from points_move as past
                where past.customer_id = customer.id and past.id <= max(move.id)))
  from points_move as move join customer on customer.id = move.customer_id
  where move.sale_id = of_sale and customer.forgotten_at is null
  group by customer.id order by max(move.id) desc limit 1);
end $$;
