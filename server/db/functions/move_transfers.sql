-- Goods go from a place to another. The transfer's row is locked before.
create or replace function send_transfer(of_transfer integer, at_time timestamptz, by_staff integer) returns void
language plpgsql as $$
declare
  from_where integer := (select from_place from stock_transfer where id = of_transfer);
  event bigint := open_event(jsonb_build_object('kind', 'stock', 'at', at_time, 'staffId', by_staff));
begin
  perform lock_levels(array_agg(item_id), array_agg(from_where)) from stock_transfer_line
    where transfer_id = of_transfer;
  update stock_level as level set quantity = level.quantity - line.quantity
  from stock_transfer_line as line
  where line.transfer_id = of_transfer and level.item_id = line.item_id and level.place_id = from_where;
  perform take_with_serials(event, at_time, (
    select jsonb_agg(jsonb_build_object('itemId', item_id, 'placeId', from_where, 'serial', serial,
             'quantity', case when serial is null then quantity else 1000 end,
             'reason', 'sent', 'against', 'stock-on-way') order by item_id, serial)
    from stock_transfer_line as line left join lateral jsonb_array_elements_text(line.serials) as unit (serial) on true
    where transfer_id = of_transfer), jsonb_build_object('transferId', of_transfer, 'staffId', by_staff));
  update stock_transfer_line set sent = quantity where transfer_id = of_transfer;
  update stock_transfer set state = 'sent', sent_at = at_time, sent_by = by_staff, version = version + 1
    where id = of_transfer;
  perform post_costs(event);
end $$;

-- What has come of it lies where it was sent to; what has not is missing. came: [{position, quantity}]
create or replace function take_in_transfer(of_transfer integer, came jsonb, at_time timestamptz, by_staff integer)
returns void language plpgsql as $$
declare
  to_where integer := (select to_place from stock_transfer where id = of_transfer);
  event bigint := open_event(jsonb_build_object('kind', 'stock', 'at', at_time, 'staffId', by_staff));
  about jsonb := jsonb_build_object('transferId', of_transfer, 'staffId', by_staff, 'reason', 'arrived', 'against',
    'stock-on-way');
  line record;
begin
  update stock_transfer_line as kept set arrived = one.quantity
  from jsonb_to_recordset(came) as one (position smallint, quantity bigint)
  where transfer_id = of_transfer and kept.position = one.position;
  perform lock_levels(array_agg(item_id), array_agg(to_where)) from stock_transfer_line where transfer_id = of_transfer;
  for line in
    select item_id, sent, arrived, serials from stock_transfer_line where transfer_id = of_transfer order by item_id
  loop
    update stock_level set quantity = quantity + line.arrived where item_id = line.item_id and place_id = to_where;
    if line.arrived > 0 then
      perform give_goods_back(event, at_time, moves_on_way(of_transfer, line.item_id), line.item_id, to_where,
        line.arrived, about);
    end if;
    if line.sent > line.arrived then
      perform give_goods_back(event, at_time, moves_on_way(of_transfer, line.item_id), line.item_id, to_where,
        line.sent - line.arrived, about, '{"reason": "missing", "against": "shrinkage"}');
    end if;
    update serial set place_id = to_where where item_id = line.item_id
      and serial in (select jsonb_array_elements_text(line.serials));
  end loop;
  update stock_transfer set state = 'arrived', arrived_at = at_time, arrived_by = by_staff, version = version + 1
  where id = of_transfer;
  perform post_costs(event);
end $$;

create or replace function moves_on_way(of_transfer integer, of_item integer) returns bigint[] language sql stable as $$
  select array_agg(id) from stock_move
  where transfer_id = of_transfer and item_id = of_item and against = 'stock-on-way'
$$;
