-- Entries that follow from where goods are, and what they cost.
create or replace function is_cost(account text) returns boolean language sql immutable as $$
  select account in ('stock', 'stock-on-way', 'cost-of-goods', 'shrinkage', 'own-use', 'goods-received')
$$;

-- A sale is voided: goods that left are back where they lay, goods that came back are away again.
create or replace function put_goods_back(of_sale uuid, of_event bigint,
  at_time timestamptz) returns void language plpgsql as $$
declare
  about jsonb := jsonb_build_object('saleId', of_sale, 'reason', 'void');
  went bigint[] := (select array_agg(move.id) from ledger_event as event
    join stock_move as move on move.event_id = event.id
                    where event.sale_id = of_sale and event.kind = 'sale');
  back record;
begin
  if went is null then
    -- Goods that left before they had a cost were posted with no event.
    went := (select array_agg(id) from stock_move where sale_id = of_sale and event_id is null);
  end if;
  perform lock_levels(array_agg(item_id), array_agg(place_id)) from (
    select item_id, place_id from stock_move where id = any (went)) as level;
  for back in
    select item_id, place_id, position, coalesce(against, 'cost-of-goods') as against, subject,
      -sum(quantity)::bigint as quantity, array_agg(id) as moves
    from stock_move where id = any (went) and quantity < 0 group by 1, 2, 3, 4, 5 order by 1, 2, 3
  loop
    perform give_goods_back(of_event, at_time,
      back.moves || coalesce((select array_agg(id) from stock_move where settles = any (back.moves)), '{}'),
      back.item_id, back.place_id, back.quantity,
      about || jsonb_build_object('position', back.position, 'against', back.against, 'subject', back.subject));
  end loop;
  for back in
    select id, item_id, place_id, position, coalesce(against, 'cost-of-goods') as against, subject, quantity,
      layer_id, upto
    from stock_move where id = any (went) and quantity > 0 order by item_id, place_id, id
  loop
    if back.layer_id is not null
       and take_span(back.place_id, back.item_id, back.layer_id, back.upto - back.quantity, back.upto) then
      insert into stock_move (item_id, place_id, quantity, reason, sale_id, at, event_id, position, layer_id, upto,
        cost, against, subject)
      values (back.item_id, back.place_id, -back.quantity, 'void', of_sale, at_time, of_event, back.position,
        back.layer_id,
              back.upto, -span_cost(back.layer_id, back.upto - back.quantity, back.upto), back.against, back.subject);
    else
      perform take_goods(of_event, at_time, jsonb_build_array(jsonb_build_object('itemId', back.item_id,
        'placeId', back.place_id, 'quantity', back.quantity, 'position', back.position, 'reason', 'void',
        'against', back.against, 'subject', back.subject)), about);
    end if;
  end loop;
  update stock_level as level set quantity = level.quantity + moved.quantity
  from (select item_id, place_id, sum(quantity) as quantity from stock_move where event_id = of_event
    group by 1, 2) as moved
  where level.item_id = moved.item_id and level.place_id = moved.place_id and moved.quantity <> 0;
end $$;
