-- What goods cost: each receipt line is a layer of thousandths, of which every one has its place; what lies somewhere, and
-- what left, is a span of them.

-- `quantity` thousandths that cost `cost` in all.
create table stock_layer (
  id bigint generated always as identity primary key,
  item_id integer not null references item,
  quantity bigint not null check (quantity between 1 and 2000000000),
  cost bigint not null check (cost between -9007199254740991 and 9007199254740991),
  -- Where it came in, and how.
  place_id integer not null references place,
  origin text not null references stock_reason,
  -- What it cost is known; otherwise it was taken from what was known before, or is nothing.
  known boolean not null,
  at timestamptz not null
);
create index stock_layer_item on stock_layer (item_id, id);
create index stock_layer_unknown on stock_layer (item_id) where not known;

-- The thousandths (after, upto] of a layer lie at a place.
create table stock_held (
  place_id integer not null references place,
  item_id integer not null references item,
  layer_id bigint not null references stock_layer,
  upto bigint not null,
  after bigint not null check (after >= 0 and after < upto),
  primary key (place_id, item_id, layer_id, upto)
) with (fillfactor = 70);
create index stock_held_layer on stock_held (layer_id);

-- Goods that go from a place to another: asked for, on the way, there.
create table stock_transfer (
  id integer generated always as identity primary key,
  from_place integer not null references place,
  to_place integer not null references place check (to_place <> from_place),
  state text not null check (state in ('asked', 'sent', 'arrived', 'cancelled')),
  words text not null default '' check (length(words) <= 200),
  asked_at timestamptz not null,
  asked_by integer not null references staff,
  sent_at timestamptz,
  sent_by integer references staff,
  arrived_at timestamptz,
  arrived_by integer references staff,
  version integer not null default 1,
  check ((sent_at is null) = (sent_by is null) and (arrived_at is null) = (arrived_by is null)),
  check ((state in ('sent', 'arrived')) = (sent_at is not null)),
  check ((state = 'arrived') = (arrived_at is not null))
);
create index stock_transfer_open on stock_transfer (state) where state in ('asked', 'sent');
create table stock_transfer_line (
  transfer_id integer not null references stock_transfer,
  position smallint not null check (position >= 1),
  item_id integer not null references item,
  quantity bigint not null check (quantity > 0),
  -- What is on the way, and what has come of it.
  sent bigint not null default 0 check (sent >= 0),
  arrived bigint not null default 0 check (arrived >= 0),
  serials jsonb not null default '[]',
  primary key (transfer_id, position),
  unique (transfer_id, item_id)
);

alter table stock_move
  -- What posted its cost. Moves from before goods had a cost have none.
  add column event_id bigint references ledger_event,
  -- The line of the sale.
  add column position smallint,
  -- The span of a layer ends here; none while it is owed.
  add column layer_id bigint references stock_layer,
  add column upto bigint,
  -- What was posted then: above zero, stock is worth more.
  add column cost bigint,
  -- The other side of the entry.
  add column against text,
  add column subject text not null default '',
  -- The move of goods that were owed, which this one gives its layer.
  add column settles bigint references stock_move,
  add column transfer_id integer references stock_transfer;
alter table stock_move drop constraint stock_move_quantity_check;
alter table stock_move
  add check (quantity <> 0 or (reason = 'revalued' and layer_id is not null)),
  add check ((layer_id is null) = (upto is null)),
  add check ((event_id is null) = (cost is null) and (event_id is null) = (against is null));

-- Goods that left before they came in: what is open of it, and the layer by which its cost is estimated, or else the cost
-- of a unit.
create table stock_debt (
  move_id bigint primary key references stock_move,
  item_id integer not null references item,
  place_id integer not null references place,
  after bigint not null default 0,
  upto bigint not null check (after >= 0 and after < upto),
  layer_id bigint references stock_layer,
  unit_cost bigint not null default 0
);
create index stock_debt_item on stock_debt (place_id, item_id, move_id);
create index stock_debt_layer on stock_debt (layer_id);

-- A unit with a serial number owns its span.
alter table serial
  add column layer_id bigint references stock_layer,
  add column upto bigint,
  add check ((layer_id is null) = (upto is null));

insert into stock_reason values ('opening'), ('revalued') on conflict do nothing;
insert into ledger_event_kind values ('stock') on conflict do nothing;

-- What is there when costs begin becomes layers at what a unit is known to cost. What is missing is owed.
do $$
declare
  opening bigint;
begin
  if exists (select 1 from stock_level where quantity <> 0) then
    insert into ledger_event (kind, at) values ('stock', now()) returning id into opening;
    insert into stock_layer (item_id, quantity, cost, place_id, origin, known, at)
    select item_id, part, round(coalesce(item.cost, 0)::numeric * part / 1000)::bigint, place_id, 'opening',
           item.cost is not null, now()
    from stock_level join item on item.id = item_id,
      lateral (select least(2000000000, quantity - done) as part from generate_series(0, quantity - 1, 2000000000) as done) as parts
    where quantity > 0 order by item_id, place_id;
    insert into stock_held (place_id, item_id, layer_id, after, upto)
    select place_id, item_id, id, 0, quantity from stock_layer;
    -- In pairs, so that the level stays as it is: what had no cost goes, the same with its cost comes.
    insert into stock_move (item_id, place_id, quantity, reason, at)
    select item_id, place_id, -quantity, 'opening', now() from stock_level where quantity <> 0;
    insert into stock_move (item_id, place_id, quantity, reason, at, event_id, layer_id, upto, cost, against)
    select item_id, place_id, quantity, 'opening', now(), opening, id, quantity, cost, 'opening-balance' from stock_layer;
    insert into stock_move (item_id, place_id, quantity, reason, at, event_id, cost, against)
    select item_id, place_id, quantity, 'opening', now(), opening,
           -coalesce(round(item.cost::numeric * -quantity / 1000), 0)::bigint, 'opening-balance'
    from stock_level join item on item.id = item_id where quantity < 0;
    insert into stock_debt (move_id, item_id, place_id, upto, unit_cost)
    select move.id, move.item_id, place_id, -quantity, coalesce(item.cost, 0)
    from stock_move as move join item on item.id = item_id where event_id = opening and layer_id is null;
    insert into ledger_entry (event_id, position, account, subject, amount)
    select opening, row_number() over (), account, subject, amount from (
      select 'stock' as account, 'place:' || place_id as subject, sum(cost)::bigint as amount
      from stock_move where event_id = opening group by place_id
      union all select 'opening-balance', '', -sum(cost)::bigint from stock_move where event_id = opening) as entry
    where amount <> 0;
  end if;
end $$;

create index stock_move_event on stock_move (event_id);
create index stock_move_layer on stock_move (layer_id);
create index stock_move_settles on stock_move (settles) where settles is not null;
create index stock_move_transfer on stock_move (transfer_id) where transfer_id is not null;
create index stock_move_place on stock_move (place_id, at);
