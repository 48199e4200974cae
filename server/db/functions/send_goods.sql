-- Goods of an order that were picked at a place leave for the one where they are collected.
create or replace function send_goods(of_promise uuid, from_place integer,
  at_time timestamptz) returns void language plpgsql as $$
declare
  event bigint := open_event(jsonb_build_object('kind', 'stock', 'at', at_time));
  taken jsonb;
begin
  -- In the order in which sales lock them.
  perform 1 from stock_level
  where place_id = from_place and item_id in (select item_id from promise_line where promise_id = of_promise)
  order by item_id for update;
  with going as (
    select position, item_id, quantity, set_aside, stocked, serial
    from promise_line join order_handover using (promise_id)
    where promise_id = of_promise and place_id = from_place and way = 'collect' and not sent
      and place_id <> collect_place and picked = quantity and handed = 0
  ), level as (
    update stock_level set quantity = stock_level.quantity - gone.quantity,
      set_aside = stock_level.set_aside - gone.set_aside
    from (select item_id, sum(quantity) as quantity, sum(set_aside) as set_aside from going where stocked
      group by item_id) as gone
    where stock_level.item_id = gone.item_id and stock_level.place_id = from_place
  ), leaving as (
    update promise_line as line set sent = true, set_aside = 0
    from going where line.promise_id = of_promise and line.position = going.position
  )
  select jsonb_agg(jsonb_build_object('itemId', item_id, 'placeId', from_place, 'quantity', quantity, 'serial', serial,
           'reason', 'sent', 'against', 'stock-on-way') order by item_id, position)
  into taken from going where stocked;
  if taken is not null then
    perform take_with_serials(event, at_time, taken, jsonb_build_object('promiseId', of_promise));
    perform post_costs(event);
  end if;
  perform sum_promise(of_promise);
end $$;

-- What was on the way is where it is collected, and set aside there.
create or replace function take_in_goods(of_promise uuid, at_time timestamptz) returns void language plpgsql as $$
declare
  to_place integer := (select collect_place from order_handover where promise_id = of_promise);
  event bigint := open_event(jsonb_build_object('kind', 'stock', 'at', at_time));
  came record;
begin
  insert into stock_level (item_id, place_id, quantity)
  select item_id, to_place, sum(quantity) from promise_line
  where promise_id = of_promise and sent and stocked group by item_id order by item_id
  on conflict (item_id, place_id) do update set quantity = stock_level.quantity + excluded.quantity;
  for came in
    select item_id, sum(quantity)::bigint as quantity from promise_line
    where promise_id = of_promise and sent and stocked group by item_id order by item_id
  loop
    perform give_goods_back(event, at_time,
      (select array_agg(id) from stock_move where promise_id = of_promise and item_id = came.item_id
        and against = 'stock-on-way'), came.item_id, to_place, came.quantity,
      jsonb_build_object('promiseId', of_promise, 'reason', 'arrived', 'against', 'stock-on-way'));
  end loop;
  perform post_costs(event);
  update serial set place_id = to_place
  from promise_line as line
  where line.promise_id = of_promise and sent and serial.item_id = line.item_id and serial.serial = line.serial;
  update promise_line set sent = false, place_id = to_place where promise_id = of_promise and sent;
  perform set_aside(of_promise, true);
  perform sum_promise(of_promise);
end $$;
