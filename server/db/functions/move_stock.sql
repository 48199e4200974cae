-- Stock that a sale takes or brings: what was promised leaves where it lies, everything else where the till is. What
-- comes back goes where it came from in its layer; damaged, or for the supplier, it comes in and leaves again, so
-- that the history says so. What it costs is posted with the sale.
create or replace function move_stock(sale_data jsonb, of_event bigint) returns void language plpgsql as $$
declare
  new_id uuid := (sale_data->>'id')::uuid;
  at_place integer := (sale_data->>'placeId')::integer;
  finished timestamptz := (sale_data->>'at')::timestamptz;
  about jsonb := jsonb_build_object('saleId', new_id);
  taken jsonb;
  back record;
begin
  with line as (
    select "itemId" as item_id, line.position, line.quantity, line."comesBack"->>'condition' as condition, line.serial,
           coalesce(known.place_id, at_place) as place_id
    from jsonb_to_recordset(sale_data->'lines') as line (
      position smallint, "itemId" integer, quantity bigint, stocked boolean, serial text, "comesBack" jsonb,
      promised jsonb)
    left join promise_line as known on known.promise_id = (promised->>'promiseId')::uuid
      and known.position = (promised->>'position')::smallint
    where line.stocked
  ), level as (
    insert into stock_level (item_id, place_id, quantity)
    select item_id, place_id, sum(case when condition in ('damaged', 'to-supplier') then 0 else -quantity end)
    from line group by item_id, place_id order by item_id, place_id
    on conflict (item_id, place_id) do update set quantity = stock_level.quantity + excluded.quantity
  )
  select jsonb_agg(jsonb_build_object('itemId', item_id, 'placeId', place_id, 'quantity', quantity, 'position',
    position, 'serial', serial, 'reason', 'sale', 'against', 'cost-of-goods') order by position)
         filter (where quantity > 0)
  into taken from line;

  for back in
    select "itemId" as item_id, line.position, -line.quantity as quantity, "comesBack"->>'condition' as condition,
           ("comesBack"->'sale'->>'saleId')::uuid as of_sale,
           ("comesBack"->'sale'->>'position')::smallint as of_position
    from jsonb_to_recordset(sale_data->'lines') as line (
      position smallint, "itemId" integer, quantity bigint, stocked boolean, "comesBack" jsonb)
    where line.stocked and line.quantity < 0 order by item_id, position
  loop
    perform give_goods_back(of_event, finished, moves_of_line(back.of_sale, back.of_position), back.item_id, at_place,
      back.quantity, about || jsonb_build_object('position', back.position, 'reason', 'return', 'against',
        'cost-of-goods'), case back.condition
        when 'damaged' then jsonb_build_object('reason', 'damaged', 'against', 'shrinkage')
        when 'to-supplier' then jsonb_build_object('reason', 'to-supplier', 'against', 'goods-received',
                                                   'subject', supplier_of(back.item_id)) end);
  end loop;

  if taken is not null then
    perform take_with_serials(of_event, finished, taken, about);
  end if;
end $$;
