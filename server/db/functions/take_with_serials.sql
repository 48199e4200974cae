-- Goods leave, and a unit with a serial number leaves with the span that is its own. One that has none gets one
-- nobody owns. wanted: as of take_goods, with the serial number of a line that has one.
create or replace function take_with_serials(of_event bigint, at_time timestamptz, wanted jsonb, about jsonb)
returns void language plpgsql as $$
declare
  unit record;
  own record;
  plain jsonb := wanted;
begin
  if exists (select 1 from jsonb_array_elements(wanted) as one where one->>'serial' is not null) then
    plain := (select jsonb_agg(one) from jsonb_array_elements(wanted) as one where one->>'serial' is null);
    for unit in
      select one, (one->>'itemId')::integer as item_id, (one->>'placeId')::integer as place_id, one->>'serial' as serial
      from jsonb_array_elements(wanted) as one where one->>'serial' is not null order by 2, 4
    loop
      select layer_id, upto into own from serial where item_id = unit.item_id and serial = unit.serial;
      if own.layer_id is null or not take_span(unit.place_id, unit.item_id, own.layer_id, own.upto - 1000,
        own.upto) then
        select free.layer_id, free.upto into own from free_unit(unit.place_id, unit.item_id) as free;
        if own.layer_id is null or not take_span(unit.place_id, unit.item_id, own.layer_id, own.upto - 1000,
          own.upto) then
          own.layer_id := null;
        end if;
      end if;
      if own.layer_id is null then
        plain := coalesce(plain, '[]') || jsonb_build_array(unit.one);
      else
        insert into stock_move (item_id, place_id, quantity, reason, sale_id, promise_id, transfer_id, staff_id,
          words, at, event_id, position, layer_id, upto, cost, against, subject)
        values (unit.item_id, unit.place_id, -1000, unit.one->>'reason', (about->>'saleId')::uuid,
                (about->>'promiseId')::uuid, (about->>'transferId')::integer, (about->>'staffId')::integer,
                coalesce(about->>'words', ''), at_time,
                of_event, (unit.one->>'position')::smallint, own.layer_id, own.upto,
                -span_cost(own.layer_id, own.upto - 1000, own.upto), unit.one->>'against',
                coalesce(unit.one->>'subject', ''));
        update serial set layer_id = own.layer_id, upto = own.upto
        where item_id = unit.item_id and serial = unit.serial and (layer_id, upto) is distinct
          from (own.layer_id, own.upto);
      end if;
    end loop;
  end if;
  if plain is not null then
    perform take_goods(of_event, at_time, plain, about);
  end if;
end $$;

-- The first unit at a place that no serial number in stock owns; else the first there is.
create or replace function free_unit(at_place integer, of_item integer) returns table (layer_id bigint, upto bigint)
language sql stable as $$
  select stock_held.layer_id, unit from stock_held, generate_series(stock_held.after + 1000, stock_held.upto,
    1000) as unit
  where stock_held.place_id = at_place and stock_held.item_id = of_item
  order by exists (select 1 from serial where serial.item_id = of_item and sale_id is null
                     and serial.layer_id = stock_held.layer_id and serial.upto > unit - 1000
                       and serial.upto < unit + 1000),
           stock_held.layer_id, unit
  limit 1
$$;

-- To whom goods of an item go back: the supplier that it comes from first.
create or replace function supplier_of(of_item integer) returns text language sql stable as $$
  select coalesce((select 'supplier:' || supplier_id from item_supplier where item_id = of_item
    order by rank, supplier_id limit 1), '')
$$;
