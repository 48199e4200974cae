-- What is left of a promise, and when its next part is due, from its lines, its moves and its plan.
create or replace function sum_promise(of_promise uuid) returns void language sql as $$
  update promise set
    held = moved.held, paid = moved.paid, handed = gone.handed, rest = gone.rest,
    unready = gone.unready, short = gone.short, begun = gone.begun, ships = gone.ships,
    next_due = case when cancelled_at is not null or gone.handed >= units then null
      when kind = 'order' then coalesce((select collect_day from order_handover where promise_id = of_promise),
        (select day from partner_order where promise_id = of_promise))
      when kind = 'relay' then (select day from relay_try where promise_id = of_promise order by nth desc limit 1)
      else (
        select min(day) from (
          select day, sum(amount) over (order by position) as until from promise_part
            where promise_id = of_promise) as part
        where part.until > moved.paid) end
  from (select coalesce(sum(amount), 0)::bigint as held,
               coalesce(sum(amount) filter (where kind = 'deposit'), 0)::bigint
                 - coalesce(-sum(amount) filter (where kind = 'void' and amount < 0), 0)::bigint as paid
        from promise_move where promise_id = of_promise) as moved,
       (select sum(handed)::bigint as handed,
               sum(net + tax - round((net + tax)::numeric * handed / quantity))::bigint as rest,
               coalesce(sum(quantity - handed) filter (where way is not null and not (
                 picked >= quantity and not sent and (way <> 'collect' or place_id = collect_place))),
                 0)::bigint as unready, sum(short)::bigint as short,
               coalesce(bool_or(way <> 'take' and stocked and (sent or picked > handed)), false) as begun,
               coalesce(bool_or(way = 'ship' and handed < quantity), false) as ships
        from promise_line left join order_handover using (promise_id) where promise_id = of_promise) as gone
  where id = of_promise
$$;

-- Sets goods of a promise aside, or lets them go again: what is set aside of each line is what is wanted from now on.
create or replace function set_aside(of_promise uuid, wanted boolean) returns void language plpgsql as $$
declare
  going record;
begin
  for going in
    select line.position, line.item_id, line.place_id, line.serial,
           case when wanted and line.stocked and not line.sent then line.quantity - line.handed - line.short else 0 end
             - line.set_aside as more
    from promise_line as line where line.promise_id = of_promise order by line.item_id, line.place_id, line.position
  loop
    update promise_line set set_aside = set_aside + going.more
    where promise_id = of_promise and position = going.position and going.more <> 0;
    if going.more <> 0 then
      insert into stock_level (item_id, place_id, quantity)
        values (going.item_id, going.place_id, 0) on conflict do nothing;
      update stock_level set set_aside = set_aside + going.more
      where item_id = going.item_id and place_id = going.place_id;
    end if;
    if going.serial is not null then
      update serial set promise_id = case when wanted then of_promise end
      where item_id = going.item_id and serial = going.serial and sale_id is null
        and promise_id is not distinct from case when wanted then null else of_promise end;
    end if;
  end loop;
end $$;

-- What a sale does to promises: deposits that are paid, used or given back, and goods that leave. Their rows are locked
-- before; what was cancelled or handed over meanwhile is refused.
create or replace function move_promises(sale_data jsonb) returns void language plpgsql as $$
declare
  new_id uuid := (sale_data->>'id')::uuid;
  finished timestamptz := (sale_data->>'at')::timestamptz;
  by_staff integer := (sale_data->>'staffId')::integer;
  going record;
  now record;
  lines integer;
begin
  for going in
    select promise.*, changed.moves, changed.gone
    from jsonb_to_recordset(sale_data->'promises') as changed (id uuid, moves jsonb, gone jsonb)
    join promise using (id) order by id
  loop
    if going.cancelled_at is not null then
      raise exception '%', going.number using errcode = 'MH011';
    end if;
    insert into promise_move (promise_id, kind, amount, sale_id, at)
    select going.id, kind, amount, new_id, finished
    from jsonb_to_recordset(going.moves) as move (kind text, amount bigint);
    if going.held + coalesce((select sum(amount) from jsonb_to_recordset(going.moves) as move (amount bigint)),
      0) < 0 then
      raise exception '%', going.number using errcode = 'MH011';
    end if;

    -- What is let go of that was set aside at each place; their levels are locked in the order in which sales lock
    -- them.
    with gone as (
      select item_id, line.place_id, sum(least(line.set_aside, gone.quantity)) as quantity
      from jsonb_to_recordset(going.gone) as gone (position smallint, quantity bigint)
      join promise_line as line on line.promise_id = going.id and line.position = gone.position and line.stocked
      group by 1, 2
    ), locked as (
      select item_id, place_id from stock_level join gone using (item_id, place_id)
      order by item_id, place_id for update of stock_level
    )
    update stock_level as level set set_aside = level.set_aside - gone.quantity
    from locked join gone using (item_id, place_id)
    where level.item_id = locked.item_id and level.place_id = locked.place_id;

    update promise_line as line set handed = line.handed + gone.quantity,
      set_aside = greatest(0, line.set_aside - gone.quantity),
      short = least(line.short, line.quantity - line.handed - gone.quantity),
      picked = greatest(line.picked, line.handed + gone.quantity)
    from jsonb_to_recordset(going.gone) as gone (position smallint, quantity bigint)
    where line.promise_id = going.id and line.position = gone.position
      and line.handed + gone.quantity <= line.quantity and not line.sent;
    get diagnostics lines = row_count;
    if lines <> jsonb_array_length(going.gone) then
      raise exception '%', going.number using errcode = 'MH011';
    end if;

    perform sum_promise(going.id);
    select * into now from promise where id = going.id;
    -- What is paid may be used or given back: no more than is left, and nothing for what has left.
    if exists (select 1 from jsonb_to_recordset(going.moves) as move (kind text) where kind = 'deposit')
       and now.held > now.rest then
      raise exception '%', going.number using errcode = 'MH011';
    end if;
    -- What is left of what was paid where it was ordered goes back there.
    if now.handed = now.units and num_nonnulls(now.channel_id, now.partner_id) > 0 then
      perform move_there(going.id, -held_there(going.id), '', finished);
      perform tell_partner(going.id, 'delivered', '', finished, by_staff);
      select * into now from promise where id = going.id;
    end if;
    if now.handed = now.units and now.held <> 0 then
      raise exception '%', going.number using errcode = 'MH011';
    end if;
    if now.handed < now.units
       and exists (select 1 from jsonb_to_recordset(going.moves) as move (kind text) where kind in ('back', 'fee')) then
      if exists (select 1 from promise_line where promise_id = going.id and sent) then
        raise exception '%', going.number using errcode = 'MH011';
      end if;
      perform set_aside(going.id, false);
      update promise set cancelled_at = finished, next_due = null where id = going.id;
      if going.kind = 'relay' then
        perform withdraw_relay(going.id, by_staff, finished);
      end if;
      perform move_there(going.id, -held_there(going.id), '', finished);
      perform tell_partner(going.id, 'refused', '', finished, by_staff);
    end if;

    insert into promise_event (promise_id, at, staff_id, what, words, sale_id, amount)
    select going.id, finished, by_staff,
           case promise_part when 'deposit' then 'Deposit paid' when 'goods' then
             case when bool_and(exists (select 1 from promise_line as way where way.promise_id = going.id
                    and way.position = sale_line.promise_position and way.way = 'ship')) then 'Shipped'
                      else 'Handed over' end
             when 'used' then 'Deposit used'
             when 'fee' then 'Fee kept' else case when now.handed = now.units then 'Deposit given back'
               else 'Cancelled' end end,
           case promise_part when 'goods' then left(string_agg(name, ', ' order by position), 200)
             else left(coalesce(max(note), ''), 200) end,
           new_id, nullif(case promise_part when 'goods' then 0 else sum(net) end, 0)
    from sale_line where sale_id = new_id and promise_id = going.id
    group by promise_part order by array_position(array['deposit', 'goods', 'used', 'fee', 'back'], promise_part);

    -- Whoever waits for a parcel is told that it is on its way.
    if going.kind = 'order' then
      insert into outbox (kind, recipient, subject, promise_id, asked_at)
      select case when mail <> '' then 'mail' else 'text' end, coalesce(nullif(mail, ''), phone),
        'Your order is on its way', going.id, finished
      from customer where id = going.customer_id and length(coalesce(nullif(mail, ''), phone)) >= 3 and exists (
        select 1 from sale_line join promise_line as line on line.promise_id = going.id
          and line.position = promise_position
        where sale_id = new_id and sale_line.promise_id = going.id and promise_part = 'goods' and line.way = 'ship');
    end if;
  end loop;
end $$;

-- Undoes what a sale did to promises: its money, and the goods that left, which are set aside again.
create or replace function void_promises(of_sale uuid, by_staff integer,
  at_time timestamptz) returns void language plpgsql as $$
declare
  going record;
  line record;
begin
  for going in
    select promise.*, (select -sum(amount) from promise_move
      where promise_id = promise.id and sale_id = of_sale) as undone,
           exists (select 1 from sale_line where sale_id = of_sale and promise_id = promise.id
             and promise_part = 'back') as opened
    from promise where id in (select promise_id from sale_line where sale_id = of_sale and promise_id is not null)
    order by id for update
  loop
    if going.held + going.undone < 0 or (going.cancelled_at is not null and not going.opened) then
      raise exception 'The deposit was used or given back meanwhile.' using errcode = 'MH009';
    end if;
    -- What a partner carries out stays paid.
    if going.kind = 'relay' and going.handed = 0 and going.undone < 0 then
      if going.relay_state in ('accepted', 'delivered') then
        raise exception 'The partner carries it out.' using errcode = 'MH009';
      elsif exists (select 1 from relay_try where promise_id = going.id
        and (state = 'sent' or (state = 'waiting' and tries > 0))) then
        perform withdraw_relay(going.id, by_staff, at_time);
      end if;
    end if;
    insert into promise_move (promise_id, kind, amount, sale_id, at)
    select going.id, 'void', -amount, of_sale, at_time
    from promise_move where promise_id = going.id and sale_id = of_sale order by id;
    if going.opened then
      update promise set cancelled_at = null where id = going.id;
    end if;
    for line in
      select promise_position, sum(quantity) as quantity from sale_line
      where sale_id = of_sale and promise_id = going.id and promise_part = 'goods' group by 1
    loop
      update promise_line set handed = handed - line.quantity
      where promise_id = going.id and position = line.promise_position;
    end loop;
    perform set_aside(going.id, not (going.coming and going.arrived_at is null));
    perform sum_promise(going.id);
    if going.handed = going.units then
      perform tell_partner(going.id, 'note', 'It is not delivered yet: it was booked by mistake.', at_time, by_staff);
    end if;
    insert into promise_event (promise_id, at, staff_id, what, sale_id)
      values (going.id, at_time, by_staff, 'Sale voided', of_sale);
  end loop;
end $$;
