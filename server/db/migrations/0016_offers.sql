-- Offers: reductions that the shop has set up and that apply by their own rules; codes, uses, points.

create table offer (
  id integer generated always as identity primary key,
  name text not null check (length(name) between 1 and 60),
  state text not null default 'draft' check (state in ('draft', 'live', 'ended')),
  -- The rule without its goods, which stand in offer_goods.
  rule jsonb not null,
  combines boolean not null default false,
  from_day date,
  to_day date,
  weekdays smallint[] not null default '{}',
  from_time text check (from_time ~ '^([01]\d|2[0-3]):[0-5]\d$'),
  to_time text check (to_time ~ '^([01]\d|2[0-3]):[0-5]\d$|^24:00$'),
  minimum bigint not null default 0 check (minimum >= 0),
  needs text not null default 'nothing' check (needs in ('nothing', 'code', 'points')),
  points integer not null default 0 check (points >= 0 and (points > 0) = (needs = 'points')),
  per_sale integer check (per_sale > 0),
  per_customer integer check (per_customer > 0),
  in_total integer check (in_total > 0),
  changed_at timestamptz not null,
  changed_by integer references staff,
  check (from_day <= to_day),
  check ((from_time is null) = (to_time is null) and from_time < to_time)
);
create unique index offer_name on offer (name) where state <> 'ended';

create table offer_goods (
  offer_id integer not null references offer,
  group_number smallint not null,
  item_id integer references item,
  category_id integer references category,
  check ((item_id is null) <> (category_id is null)),
  unique nulls not distinct (offer_id, group_number, item_id, category_id)
);

create table offer_place (
  offer_id integer not null references offer,
  place_id integer not null references place,
  primary key (offer_id, place_id)
);

create table offer_member (
  offer_id integer not null references offer,
  group_id integer not null references customer_group,
  primary key (offer_id, group_id)
);

-- Counts up with every change to an offer, so that the offers need not be read for every sale.
create table offer_revision (revision bigint not null);
insert into offer_revision values (1);
create function touch_offers() returns trigger language plpgsql as $$
begin
  update offer_revision set revision = revision + 1;
  return null;
end $$;
create trigger offer_touched after insert or update on offer for each statement execute function touch_offers();
create trigger offer_goods_touched after insert or delete on offer_goods
  for each statement execute function touch_offers();

-- A code opens its offer: any number of times, or once.
create table offer_code (
  code text primary key check (code = upper(code) and length(code) between 4 and 40),
  offer_id integer not null references offer,
  single boolean not null,
  made_at timestamptz not null,
  withdrawn_at timestamptz
);
create index offer_code_offer on offer_code (offer_id);

-- Counted when a sale is finished; a void gives back with a row below zero.
create table offer_use (
  id bigint generated always as identity primary key,
  offer_id integer not null references offer,
  sale_id uuid not null references sale,
  customer_id integer references customer,
  code text references offer_code,
  uses integer not null check (uses <> 0),
  at timestamptz not null
);
create index offer_use_offer on offer_use (offer_id);
create index offer_use_customer on offer_use (customer_id, offer_id) where customer_id is not null;
create index offer_use_code on offer_use (code) where code is not null;
create index offer_use_sale on offer_use (sale_id);
create trigger offer_use_is_history before update or delete or truncate on offer_use
  for each statement execute function refuse_change();

-- Uses that a basket holds while it is being paid, so that the last one is not promised twice.
create table offer_claim (
  basket_id uuid not null,
  offer_id integer not null references offer,
  code text not null default '',
  uses integer not null check (uses > 0),
  at timestamptz not null,
  primary key (basket_id, offer_id, code)
);
create index offer_claim_offer on offer_claim (offer_id);

-- Points of customers: the balance is the sum of its moves, and never below zero by redeeming.
alter table customer add column points bigint not null default 0 check (points >= 0);
create table points_move (
  id bigint generated always as identity primary key,
  customer_id integer not null references customer,
  amount bigint not null check (amount <> 0),
  reason text not null check (reason in ('opening', 'reward', 'given back')),
  sale_id uuid references sale,
  at timestamptz not null
);
create index points_move_customer on points_move (customer_id);
create trigger points_move_is_history before update or delete or truncate on points_move
  for each statement execute function refuse_change();

-- What one unit costs the shop, where it is known.
alter table item add column cost bigint check (cost >= 0);

insert into role_right (role, "right")
select 'manager', 'offers.edit' where exists (select 1 from shop);
