-- Orders: goods that are collected or shipped later, where they are picked, and what becomes of them.

-- Why stock moves are rows, laid from core: a new reason needs no change here.
create table stock_reason (name text primary key);
insert into stock_reason values ('opening'), ('sale'), ('return'), ('damaged'), ('to-supplier'), ('void');
alter table stock_move drop constraint stock_move_reason_check;
alter table stock_move add foreign key (reason) references stock_reason,
  -- Goods that go from a place to another for somebody's order.
  add column promise_id uuid references promise;
create index stock_move_promise on stock_move (promise_id) where promise_id is not null;

-- Where a place is, and when it is open: seven days from Monday, `{"from": "09:00", "to": "18:00"}` or null; an empty list
-- is at any time.
alter table place
  add column street text not null default '' check (length(street) <= 120),
  add column postcode text not null default '' check (length(postcode) <= 12),
  add column city text not null default '' check (length(city) <= 80),
  add column latitude double precision check (latitude between -90 and 90),
  add column longitude double precision check (longitude between -180 and 180),
  add column hours jsonb not null default '[]' check (jsonb_array_length(hours) in (0, 7)),
  add check ((latitude is null) = (longitude is null));

-- Grams; nothing where it is not known.
alter table item add column weight integer check (weight >= 0);

alter table promise_line
  add column way text check (way in ('take', 'collect', 'ship')),
  -- Where the goods are, or are picked.
  add column place_id integer references place,
  add column picked bigint not null default 0,
  add column short bigint not null default 0,
  -- On the way to the place where they are collected.
  add column sent boolean not null default false;
update promise_line set place_id = (select place_id from promise where id = promise_id);
alter table promise_line
  alter column place_id set not null,
  add check (picked between 0 and quantity),
  add check (short between 0 and quantity - handed),
  add check (picked + short <= quantity),
  add check (not sent or (way is not distinct from 'collect' and picked = quantity and handed = 0 and set_aside = 0));
create index promise_line_place on promise_line (place_id) where way is not null and handed < quantity;

-- Of an order, maintained from its lines in the same transaction.
alter table promise
  -- Something is to be paid before it is picked.
  add column pay_first boolean not null default false,
  add column unready bigint not null default 0 check (unready >= 0),
  add column short bigint not null default 0 check (short >= 0),
  add column begun boolean not null default false,
  -- Something that has not left is to be shipped.
  add column ships boolean not null default false;
-- Whether it wants attention on any day, while something of it waits: the same as `wantsAttention`, which a test compares.
alter table promise add column attends boolean generated always as (
  case kind when 'order' then (pay_first and paid = 0) or unready > 0 or ships
    else held >= rest or (handed = 0 and told_at is null and (paid = 0 or arrived_at is not null)) end) stored;

-- How the goods of an order get to the customer.
create table order_handover (
  promise_id uuid primary key references promise,
  collect_place integer references place,
  collect_day date,
  collect_time time,
  collector text not null default '' check (length(collector) <= 80),
  recipient text not null default '' check (length(recipient) <= 80),
  street text not null default '' check (length(street) <= 120),
  postcode text not null default '' check (length(postcode) <= 12),
  city text not null default '' check (length(city) <= 80),
  phone text not null default '' check (length(phone) <= 40),
  wishes text not null default '' check (length(wishes) <= 200),
  gift boolean not null default false,
  zone text not null default '',
  weight integer not null default 0 check (weight >= 0),
  -- When the customer was told that everything lies ready.
  ready_at timestamptz,
  check (num_nonnulls(collect_place, collect_day, collect_time) in (0, 3)),
  check (collect_place is not null or recipient <> '')
);
create index order_handover_day on order_handover (collect_day);

-- What the carrier is asked to take. It is stored before the carrier is asked; its number comes back with the label.
create table parcel (
  id uuid primary key,
  promise_id uuid not null references promise,
  state text not null default 'waiting' check (state in ('waiting', 'labelled')),
  weight integer not null check (weight >= 0),
  tracking text unique,
  asked_at timestamptz not null,
  staff_id integer not null references staff,
  tries integer not null default 0,
  trouble text not null default '',
  try_at timestamptz,
  check ((state = 'labelled') = (tracking is not null))
);
create index parcel_of on parcel (promise_id, asked_at);
create index parcel_waits on parcel (asked_at) where state = 'waiting';

-- How the shop takes orders: see `OrderRules`. The fee of shipping is rung up as an item of its own.
alter table shop
  add column order_rules jsonb not null
    default '{"pay": "full", "leastDeposit": 200000, "leadMinutes": 120, "usualWeight": 500, "zones": []}',
  add column shipping_item_id integer references item,
  -- Whoever knows it may read the calendar of collections.
  add column calendar_key text not null default replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', '');

insert into item (number, name, category_id, tax_category_id, price, stocked, active)
select 'SHIPPING', 'Shipping', (select id from category where name = 'Deposits'), (select min(id) from tax_category), null, false, false
where exists (select 1 from shop);
update shop set shipping_item_id = (select id from item where number = 'SHIPPING');
