-- What goods cost, first in, first out. A layer of Q thousandths that cost C: its first b cost round(C·b ÷ Q), half
-- away from zero, so that no minor unit is made or lost in whatever pieces goods leave and come back.

-- Exact in 64 bits for Q and b up to 2·10⁹ and C up to 2⁵³.
create or replace function layer_cost(cost bigint, quantity bigint, upto bigint) returns bigint
language sql immutable parallel safe as $$
  select (cost / quantity) * upto
    + (2 * (cost % quantity) * upto + case when cost < 0 then -quantity else quantity end) / (2 * quantity)
$$;

create or replace function span_cost(of_layer bigint, after bigint,
  upto bigint) returns bigint language sql stable as $$
  select layer_cost(cost, quantity, upto) - layer_cost(cost, quantity, after) from stock_layer where id = of_layer
$$;

-- What goods that are owed are thought to cost: by the last layer that was known then, or by the cost of a unit.
create or replace function debt_cost(by_layer bigint, unit_cost bigint, after bigint, upto bigint) returns bigint
language sql stable as $$
  select case when by_layer is null then layer_cost(unit_cost, 1000, upto) - layer_cost(unit_cost, 1000, after)
              else span_cost(by_layer, after, upto) end
$$;

-- Locks items at places, in the one order in which everybody does.
create or replace function lock_levels(items integer[], places integer[]) returns void language plpgsql as $$
begin
  insert into stock_level (item_id, place_id, quantity)
  select distinct *, 0 from unnest(items, places) as level (item_id, place_id) order by 1, 2 on conflict do nothing;
  perform 1 from stock_level join (select distinct * from unnest(items, places) as level (item_id, place_id)) as wanted
    using (item_id, place_id) order by item_id, place_id for no key update of stock_level;
end $$;

-- Goods leave, first in, first out; what is not there is owed. wanted: [{itemId, placeId, quantity, position, reason,
-- against, subject}], where a past is laid each with its own {saleId, eventId, at}; about: {saleId, promiseId,
-- transferId, staffId, words}. The levels are locked before, by a statement of their own.
create or replace function take_goods(of_event bigint, at_time timestamptz, wanted jsonb, about jsonb default '{}')
returns void language plpgsql set plan_cache_mode = force_generic_plan as $$
begin
  -- What will be owed is estimated by its last layer: whoever corrects what that cost is waited for.
  perform 1 from stock_layer where id in (
    select (select max(id) from stock_layer as last where last.item_id = level.item_id)
    from jsonb_to_recordset(wanted) as one ("itemId" integer, "placeId" integer)
    join stock_level as level on level.item_id = "itemId" and level.place_id = "placeId" and level.quantity < 0)
  order by id for key share;
  with demand as (
    select nth, "itemId" as item_id, "placeId" as place_id, "position", quantity, reason, against,
           coalesce(subject, '') as subject, coalesce("saleId", (about->>'saleId')::uuid) as sale_id,
           coalesce("eventId", of_event) as event_id, coalesce(at, at_time) as at,
           sum(quantity) over taken - quantity as d0, sum(quantity) over taken as d1
    from rows from (jsonb_to_recordset(wanted) as ("itemId" integer, "placeId" integer, "position" smallint,
      quantity bigint, reason text, against text, subject text, "saleId" uuid, "eventId" bigint, at timestamptz))
      with ordinality as one ("itemId", "placeId", "position", quantity, reason, against, subject, "saleId",
        "eventId", at, nth)
    window taken as (partition by "itemId", "placeId" order by nth)
  ), supply as (
    select stock_held.item_id, stock_held.place_id, layer_id, after, upto,
           sum(upto - after) over inward - (upto - after) as s0, sum(upto - after) over inward as s1
    from stock_held join (select distinct item_id, place_id from demand) as asked using (item_id, place_id)
    window inward as (partition by stock_held.item_id, stock_held.place_id order by layer_id, upto)
  ), part as (
    select demand.*, supply.layer_id, supply.upto as span, (supply.after + greatest(d0, s0) - s0)::bigint as a,
           (supply.after + least(d1, s1) - s0)::bigint as b
    from demand join supply using (item_id, place_id) where s0 < d1 and d0 < s1
  ), head as (
    select place_id, item_id, layer_id, span, max(b) as b from part group by 1, 2, 3, 4
  ), spent as (
    delete from stock_held using head
    where stock_held.place_id = head.place_id and stock_held.item_id = head.item_id
      and stock_held.layer_id = head.layer_id
      and stock_held.upto = head.span and head.b = head.span
  ), cut as (
    update stock_held set after = head.b from head
    where stock_held.place_id = head.place_id and stock_held.item_id = head.item_id
      and stock_held.layer_id = head.layer_id
      and stock_held.upto = head.span and head.b < head.span
  ), moved as (
    insert into stock_move (item_id, place_id, quantity, reason, sale_id, promise_id, transfer_id, staff_id, words,
      at, event_id, position, layer_id, upto, cost, against, subject)
    select part.item_id, part.place_id, a - b, reason, part.sale_id, (about->>'promiseId')::uuid,
           (about->>'transferId')::integer, (about->>'staffId')::integer, coalesce(about->>'words', ''), part.at,
           part.event_id, "position", layer_id, b,
           layer_cost(layer.cost, layer.quantity, a) - layer_cost(layer.cost, layer.quantity, b), part.against,
           part.subject
    from part join stock_layer as layer on layer.id = layer_id order by nth, layer_id, b
  ), short as (
    select demand.*, (d1 - greatest(d0, coalesce(had, 0)))::bigint as missing, item.cost as unit_cost,
           (select id from stock_layer as layer where layer.item_id = demand.item_id
             order by id desc limit 1) as by_layer
    from demand join item on item.id = item_id
    left join (select item_id, place_id, max(s1) as had from supply group by 1, 2) as there using (item_id, place_id)
    where d1 > coalesce(had, 0)
  ), owed as (
    insert into stock_move (item_id, place_id, quantity, reason, sale_id, promise_id, transfer_id, staff_id, words,
      at, event_id, position, cost, against, subject)
    select item_id, place_id, -missing, reason, sale_id, (about->>'promiseId')::uuid,
           (about->>'transferId')::integer, (about->>'staffId')::integer, coalesce(about->>'words', ''), at,
           event_id, "position",
           -debt_cost(by_layer, coalesce(unit_cost, 0), 0, missing),
           -- What was not there on paper cannot be on the way.
           case against when 'stock-on-way' then 'shrinkage' else against end, subject
    from short order by nth
    returning id, item_id, place_id, -quantity as quantity
  )
  insert into stock_debt (move_id, item_id, place_id, upto, layer_id, unit_cost)
  select id, owed.item_id, owed.place_id, quantity,
         (select layer.id from stock_layer as layer where layer.item_id = owed.item_id order by layer.id desc limit 1),
         coalesce((select cost from item where item.id = owed.item_id), 0)
  from owed;
end $$;

-- Takes just this span, where it lies at the place whole. Answers whether it did.
create or replace function take_span(at_place integer, of_item integer, of_layer bigint, from_after bigint,
  to_upto bigint)
returns boolean language plpgsql as $$
declare
  held record;
begin
  delete from stock_held where place_id = at_place and item_id = of_item and layer_id = of_layer
    and after <= from_after and upto >= to_upto
  returning * into held;
  if not found then
    return false;
  end if;
  insert into stock_held (place_id, item_id, layer_id, after, upto)
  select at_place, of_item, of_layer, part.after, part.upto
  from (values (held.after, from_after), (to_upto, held.upto)) as part (after, upto) where part.after < part.upto;
  return true;
end $$;

-- Goods of a layer leave that lies there still, from its end; what does not, first in, first out. wanted: as of
-- take_goods.
create or replace function take_of_layer(of_event bigint, at_time timestamptz, of_layer bigint, wanted jsonb,
  about jsonb)
returns void language plpgsql as $$
declare
  rest bigint := (wanted->>'quantity')::bigint;
  span record;
begin
  select stock_held.upto, layer.cost, layer.quantity, least(rest, stock_held.upto - stock_held.after) as part into span
  from stock_held join stock_layer as layer on layer.id = layer_id
  where layer_id = of_layer and stock_held.place_id = (wanted->>'placeId')::integer
    order by stock_held.upto desc limit 1;
  if found and take_span((wanted->>'placeId')::integer, (wanted->>'itemId')::integer, of_layer,
    span.upto - span.part, span.upto) then
    insert into stock_move (item_id, place_id, quantity, reason, staff_id, words, at, event_id, layer_id, upto,
      cost, against, subject)
    values ((wanted->>'itemId')::integer, (wanted->>'placeId')::integer, -span.part, wanted->>'reason',
            (about->>'staffId')::integer, coalesce(about->>'words', ''), at_time, of_event, of_layer, span.upto,
            layer_cost(span.cost, span.quantity, span.upto - span.part) - layer_cost(span.cost, span.quantity,
              span.upto), wanted->>'against', coalesce(wanted->>'subject', ''));
    rest := rest - span.part;
  end if;
  if rest > 0 then
    perform take_goods(of_event, at_time, jsonb_build_array(wanted || jsonb_build_object('quantity', rest)), about);
  end if;
end $$;

-- A span of a layer comes to a place: what is owed there is paid first, the oldest first; the rest lies there, one
-- with its neighbours. Its own move was written before.
create or replace function lay_span(of_event bigint, at_time timestamptz, at_place integer, of_item integer,
  of_layer bigint,
                                    from_after bigint, to_upto bigint) returns void language plpgsql as $$
declare
  debt record;
  part bigint;
  estimate bigint;
begin
  for debt in
    select stock_debt.*, move.reason, move.sale_id, move.promise_id, move.transfer_id, move.position, move.against,
      move.subject
    from stock_debt join stock_move as move on move.id = move_id
    where stock_debt.place_id = at_place and stock_debt.item_id = of_item order by move_id
  loop
    exit when from_after >= to_upto;
    part := least(debt.upto - debt.after, to_upto - from_after);
    estimate := debt_cost(debt.layer_id, debt.unit_cost, debt.after, debt.after + part);
    insert into stock_move (item_id, place_id, quantity, reason, sale_id, promise_id, transfer_id, at, event_id,
      position, layer_id, upto, cost, against, subject, settles)
    values
      (of_item, at_place, part, debt.reason, debt.sale_id, debt.promise_id, debt.transfer_id, at_time, of_event,
      debt.position, null, null, estimate, debt.against, debt.subject, debt.move_id),
      (of_item, at_place, -part, debt.reason, debt.sale_id, debt.promise_id, debt.transfer_id, at_time, of_event,
      debt.position, of_layer,
       from_after + part, -span_cost(of_layer, from_after, from_after + part), debt.against, debt.subject,
       debt.move_id);
    if debt.after + part = debt.upto then
      delete from stock_debt where move_id = debt.move_id;
    else
      update stock_debt set after = debt.after + part where move_id = debt.move_id;
    end if;
    from_after := from_after + part;
  end loop;
  if from_after < to_upto then
    with joined as (
      delete from stock_held where place_id = at_place and item_id = of_item and layer_id = of_layer
        and (upto = from_after or after = to_upto)
      returning after, upto
    )
    insert into stock_held (place_id, item_id, layer_id, after, upto)
    select at_place, of_item, of_layer, least(from_after, min(after)), greatest(to_upto, max(upto)) from joined;
  end if;
end $$;

-- Goods of a new layer come to places. lines: [{itemId, placeId, quantity, cost, known, position}]; without a cost
-- they are thought to cost what the last ones did. about: {reason, against, subject, saleId, promiseId, transferId,
-- staffId, words}. The levels are locked before. Answers with the layers, in the order of the lines.
create or replace function bring_layers(of_event bigint, at_time timestamptz, lines jsonb, about jsonb) returns bigint[]
language plpgsql set plan_cache_mode = force_generic_plan as $$
declare
  laid bigint[];
  owed record;
begin
  with line as (
    select one.*, nextval(pg_get_serial_sequence('stock_layer', 'id')) as layer_id
    from (
      select nth, "itemId" as item_id, "placeId" as place_id, one.quantity, "position",
             coalesce(one.known, one.cost is not null or coalesce((
               select known from stock_layer as last where last.item_id = "itemId"
                 order by id desc limit 1), item.cost is not null))
               as known,
             coalesce(one.cost, debt_cost((select id from stock_layer as last where last.item_id = "itemId"
               order by id desc limit 1), coalesce(item.cost, 0), 0, one.quantity)) as cost
      from rows from (jsonb_to_recordset(lines) as ("itemId" integer, "placeId" integer, quantity bigint, cost bigint,
        known boolean, "position" smallint)) with ordinality
        as one ("itemId", "placeId", quantity, cost, known, "position", nth)
      join item on item.id = "itemId" order by nth) as one
  ), layer as (
    insert into stock_layer (id, item_id, quantity, cost, place_id, origin, known, at) overriding system value
    select layer_id, item_id, quantity, cost, place_id, about->>'reason', known, at_time from line
  ), moved as (
    insert into stock_move (item_id, place_id, quantity, reason, sale_id, promise_id, transfer_id, staff_id, words,
      at, event_id, position, layer_id, upto, cost, against, subject)
    select item_id, place_id, quantity, about->>'reason', (about->>'saleId')::uuid, (about->>'promiseId')::uuid,
           (about->>'transferId')::integer, (about->>'staffId')::integer, coalesce(about->>'words', ''), at_time,
           of_event, "position", layer_id, quantity, cost, about->>'against', coalesce(about->>'subject', '')
    from line order by nth
  ), lying as (
    insert into stock_held (place_id, item_id, layer_id, after, upto)
    select place_id, item_id, layer_id, 0, quantity from line
    where not exists (select 1 from stock_debt
      where stock_debt.place_id = line.place_id and stock_debt.item_id = line.item_id)
  )
  select array_agg(layer_id order by nth) into laid from line;
  for owed in
    select id, place_id, item_id, quantity from stock_layer as layer
    where id = any (laid) and not exists (select 1 from stock_held where layer_id = layer.id) order by id
  loop
    perform lay_span(of_event, at_time, owed.place_id, owed.item_id, owed.id, 0, owed.quantity);
  end loop;
  return laid;
end $$;

-- The spans that moves have taken out and not brought back, each with the move that took it last.
create or replace function spans_out(moves bigint[])
returns table (layer_id bigint, after bigint, upto bigint, place_id integer, move_id bigint) language sql stable as $$
  with mine as (
    select id, move.layer_id, move.place_id, move.upto - abs(quantity) as after, move.upto,
      sign(quantity)::integer as way
    from stock_move as move where id = any (moves) and move.layer_id is not null and quantity <> 0
  ), point as (
    select mine.layer_id, at, sum(change) as change from (
      select mine.layer_id, mine.after as at, -way as change from mine
      union all select mine.layer_id, mine.upto, way from mine) as mine
    group by 1, 2
  ), piece as (
    select point.layer_id, at as after, lead(at) over line as upto, sum(change) over line as out
    from point window line as (partition by point.layer_id order by at)
  )
  select piece.layer_id, piece.after, piece.upto, last.place_id, last.id
  from piece, lateral (
    select mine.id, mine.place_id from mine
    where way < 0 and mine.layer_id = piece.layer_id and mine.after <= piece.after and mine.upto >= piece.upto
    order by mine.id desc limit 1) as last
  where piece.out > 0
$$;

-- Moves that are one use of goods: those of a line of a sale, of what came back of it, and of voids of either, with
-- what was paid of what it owed.
create or replace function moves_of_line(of_sale uuid, at_position smallint) returns bigint[] language sql stable as $$
  with event as (
    select id from ledger_event where sale_id = of_sale
    union
    select event.id from sale_line as line join ledger_event as event on event.sale_id = line.sale_id
    where line.return_sale = of_sale and line.return_position = at_position
  ), own as (
    select move.id from event join stock_move as move on move.event_id = event.id
    join sale_line as line on line.sale_id = move.sale_id and line.position = move.position
    where move.against = 'cost-of-goods'
      and ((line.sale_id = of_sale and line.position = at_position)
        or (line.return_sale = of_sale and line.return_position = at_position))
  )
  select array_agg(id) from (
    select id from own union select paid.id from own join stock_move as paid on paid.settles = own.id) as mine
$$;

-- Goods of a use come back to a place: at the place where they are owed less is owed; then the spans, last out first
-- in; what has neither becomes a layer that is thought to cost what the last ones did. `gone_as`: they do not stay,
-- but leave at once as damaged or to the supplier. about: as of take_goods, with position, reason, against.
create or replace function give_goods_back(of_event bigint, at_time timestamptz, moves bigint[], of_item integer,
                                           at_place integer, quantity bigint, about jsonb, gone_as jsonb default null)
returns void language plpgsql as $$
declare
  rest bigint := quantity;
  given bigint := 0;
  part bigint;
  debt record;
  span record;
begin
  -- Whoever corrects what their layers cost is waited for, and then waits in turn.
  perform 1 from stock_layer where id in (select stock_move.layer_id from stock_move where id = any (moves))
  order by id for key share;
  for debt in
    select * from stock_debt where move_id = any (moves) and stock_debt.place_id = at_place order by move_id desc
  loop
    exit when rest = 0;
    part := least(rest, debt.upto - debt.after);
    insert into stock_move (item_id, place_id, quantity, reason, sale_id, staff_id, at, event_id, position, cost,
      against, subject)
    values (of_item, at_place, part, about->>'reason', (about->>'saleId')::uuid, (about->>'staffId')::integer,
      at_time, of_event,
            (about->>'position')::smallint, debt_cost(debt.layer_id, debt.unit_cost, debt.upto - part, debt.upto),
            about->>'against', coalesce(about->>'subject', ''));
    if part = debt.upto - debt.after then
      delete from stock_debt where move_id = debt.move_id;
    else
      update stock_debt set upto = debt.upto - part where move_id = debt.move_id;
    end if;
    rest := rest - part;
    if gone_as is not null then
      perform take_goods(of_event, at_time, jsonb_build_array(gone_as || jsonb_build_object('itemId', of_item,
        'placeId', at_place, 'quantity', part, 'position', about->'position')), about);
    end if;
  end loop;
  -- The last that went come back first; they are laid in the order of their layers.
  for span in
    select layer_id, gone.upto, least(length, rest - before) as part
    from (select layer_id, upto, upto - after as length,
                 sum(upto - after) over (order by move_id desc, after desc) - (upto - after) as before
          from spans_out(moves)) as gone
    where before < rest order by layer_id, upto
  loop
    part := span.part;
    insert into stock_move (item_id, place_id, quantity, reason, sale_id, promise_id, transfer_id, staff_id, at,
      event_id, position, layer_id, upto, cost, against, subject)
    values (of_item, at_place, part, about->>'reason', (about->>'saleId')::uuid, (about->>'promiseId')::uuid,
            (about->>'transferId')::integer, (about->>'staffId')::integer,
            at_time, of_event, (about->>'position')::smallint, span.layer_id, span.upto,
            span_cost(span.layer_id, span.upto - part, span.upto), about->>'against', coalesce(about->>'subject', ''));
    if gone_as is null then
      perform lay_span(of_event, at_time, at_place, of_item, span.layer_id, span.upto - part, span.upto);
    else
      insert into stock_move (item_id, place_id, quantity, reason, sale_id, transfer_id, staff_id, at, event_id,
        position, layer_id, upto, cost, against, subject)
      values (of_item, at_place, -part, gone_as->>'reason', (about->>'saleId')::uuid, (about->>'transferId')::integer,
              (about->>'staffId')::integer, at_time, of_event, (about->>'position')::smallint, span.layer_id, span.upto,
              -span_cost(span.layer_id, span.upto - part, span.upto), gone_as->>'against',
              coalesce(gone_as->>'subject', ''));
    end if;
    given := given + part;
  end loop;
  rest := rest - given;
  if rest > 0 then
    perform bring_layers(of_event, at_time, jsonb_build_array(jsonb_build_object('itemId', of_item, 'placeId', at_place,
      'quantity', rest, 'position', about->'position')),
      -- What was not there on paper when it was sent has no place on the way.
      case about->>'against' when 'stock-on-way' then about || '{"against": "shrinkage"}' else about end);
    if gone_as is not null then
      perform take_goods(of_event, at_time, jsonb_build_array(gone_as || jsonb_build_object('itemId', of_item,
        'placeId', at_place, 'quantity', rest, 'position', about->'position')), about);
    end if;
  end if;
end $$;

-- The books follow: an event's moves become its entries, stock by place against what they were posted to.
create or replace function post_costs(of_event bigint) returns void language plpgsql as $$
begin
  insert into ledger_entry (event_id, position, account, subject, amount)
  select of_event, coalesce((select max(position) from ledger_entry where event_id = of_event), 0)
           + row_number() over (order by account desc, subject), account, subject, amount
  from (
    select 'stock' as account, 'place:' || place_id as subject, sum(cost)::bigint as amount
    from stock_move where event_id = of_event group by place_id
    union all
    select against, subject, -sum(cost)::bigint from stock_move where event_id = of_event
      group by against, subject) as entry
  where amount <> 0;
end $$;

-- Locks a layer, and wherever goods of it lie or are owed by it. What comes to another place meanwhile waits for the
-- layer; what came just before is locked then.
create or replace function lock_layer(of_layer bigint) returns void language plpgsql as $$
begin
  for nth in 1..2 loop
    perform lock_levels(array_agg(item_id), array_agg(place_id)) from (
      select item_id, place_id from stock_held where layer_id = of_layer
      union select item_id, place_id from stock_debt where layer_id = of_layer) as level;
    perform 1 from stock_layer where id = of_layer for update;
  end loop;
end $$;

-- What a layer turns out to have cost. One event of today with the difference, by place and by what its goods were
-- used for; nothing that was written is changed, however many uses there are. Answers with the event.
create or replace function correct_layer(of_layer bigint, new_cost bigint, at_time timestamptz, by_staff integer,
  why text, of_event bigint default null)
returns bigint language plpgsql as $$
declare
  old record;
  event bigint := of_event;
begin
  perform lock_layer(of_layer);
  select * into old from stock_layer where id = of_layer;
  if event is null then
    event := post_event(jsonb_build_object('kind', 'cost-corrected', 'at', at_time, 'staffId', by_staff, 'entries',
      '[]'::jsonb));
  end if;
  with change as (
    select place_id, against, subject, sum(amount)::bigint as amount from (
      -- Every move has put its span's cost to stock, or taken it away.
      select place_id, against, subject, sign(move.quantity) * (
          layer_cost(new_cost, old.quantity, upto) - layer_cost(new_cost, old.quantity, upto - abs(move.quantity))
          - layer_cost(old.cost, old.quantity, upto) + layer_cost(old.cost, old.quantity,
            upto - abs(move.quantity))) as amount
      from stock_move as move where layer_id = of_layer and move.quantity <> 0
      union all
      -- What is owed is estimated by it.
      select debt.place_id, against, subject,
          layer_cost(old.cost, old.quantity, debt.upto) - layer_cost(old.cost, old.quantity, after)
          - layer_cost(new_cost, old.quantity, debt.upto) + layer_cost(new_cost, old.quantity, after)
      from stock_debt as debt join stock_move as move on move.id = move_id where debt.layer_id = of_layer) as part
    group by 1, 2, 3 having sum(amount) <> 0
  )
  insert into stock_move (item_id, place_id, quantity, reason, staff_id, words, at, event_id, layer_id, upto, cost,
    against, subject)
  select old.item_id, place_id, 0, 'revalued', by_staff, why, at_time, event, of_layer, old.quantity, amount,
    against, subject
  from change order by place_id, against, subject;
  update stock_layer set cost = new_cost, known = true where id = of_layer;
  if of_event is null then
    perform post_costs(event);
  end if;
  return event;
end $$;
