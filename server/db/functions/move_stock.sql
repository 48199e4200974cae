-- Stock that a sale takes or brings: what was promised leaves where it lies, everything else where the till is. What comes
-- back damaged or goes to the supplier comes in and leaves again, so that the history says so.
create or replace function move_stock(sale_data jsonb) returns void language plpgsql as $$
declare
  new_id uuid := (sale_data->>'id')::uuid;
  at_place integer := (sale_data->>'placeId')::integer;
  finished timestamptz := (sale_data->>'at')::timestamptz;
begin
  with line as (
    select "itemId" as item_id, line.quantity, "comesBack"->>'condition' as condition,
           coalesce(known.place_id, at_place) as place_id
    from jsonb_to_recordset(sale_data->'lines') as line (
      "itemId" integer, quantity bigint, stocked boolean, "comesBack" jsonb, promised jsonb)
    left join promise_line as known on known.promise_id = (promised->>'promiseId')::uuid
      and known.position = (promised->>'position')::smallint
    where line.stocked
  ), part as (
    select item_id, place_id, -quantity as quantity, case when quantity > 0 then 'sale' else 'return' end as reason from line
    union all
    select item_id, place_id, quantity, condition from line where quantity < 0 and condition in ('damaged', 'to-supplier')
  ), moved as (
    insert into stock_move (item_id, place_id, quantity, reason, sale_id, at)
    select item_id, place_id, sum(quantity), reason, new_id, finished from part
    group by item_id, place_id, reason order by item_id, place_id, reason
  )
  insert into stock_level as held (item_id, place_id, quantity)
  select item_id, place_id, sum(quantity) from part group by item_id, place_id order by item_id, place_id
  on conflict (item_id, place_id) do update set quantity = held.quantity + excluded.quantity;
end $$;
