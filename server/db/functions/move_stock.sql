-- Stock that a sale takes or brings. What comes back damaged or goes to the supplier comes in and leaves again, so that the
-- history says so.
create or replace function move_stock(sale_data jsonb) returns void language plpgsql as $$
declare
  new_id uuid := (sale_data->>'id')::uuid;
  at_place integer := (sale_data->>'placeId')::integer;
  finished timestamptz := (sale_data->>'at')::timestamptz;
begin
  with line as (
    select "itemId" as item_id, quantity, "comesBack"->>'condition' as condition
    from jsonb_to_recordset(sale_data->'lines') as line ("itemId" integer, quantity bigint, stocked boolean, "comesBack" jsonb)
    where stocked
  ), part as (
    select item_id, -quantity as quantity, case when quantity > 0 then 'sale' else 'return' end as reason from line
    union all
    select item_id, quantity, condition from line where quantity < 0 and condition in ('damaged', 'to-supplier')
  ), moved as (
    insert into stock_move (item_id, place_id, quantity, reason, sale_id, at)
    select item_id, at_place, sum(quantity), reason, new_id, finished from part
    group by item_id, reason order by item_id, reason
  )
  insert into stock_level as held (item_id, place_id, quantity)
  select item_id, at_place, sum(quantity) from part group by item_id order by item_id
  on conflict (item_id, place_id) do update set quantity = held.quantity + excluded.quantity;
end $$;
