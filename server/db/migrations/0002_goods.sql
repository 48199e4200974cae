-- What is sold, and how much of it is where.

create table category (
  id integer generated always as identity primary key,
  name text not null unique check (length(name) between 1 and 60)
);

-- Counts up with every change, so that a till can ask for what is new.
create sequence catalogue_revision;

create table item (
  id integer generated always as identity primary key,
  number text not null unique check (length(number) between 1 and 40),
  name text not null check (length(name) between 1 and 120),
  category_id integer not null references category,
  unit text not null default 'each' check (length(unit) between 1 and 12),
  decimals smallint not null default 0 check (decimals between 0 and 3),
  price bigint check (price >= 0),
  tax_category_id integer not null references tax_category,
  stocked boolean not null default true,
  active boolean not null default true,
  revision bigint not null default nextval('catalogue_revision')
);
create index item_revision on item (revision);

create table item_code (
  code text primary key check (length(code) between 1 and 40),
  item_id integer not null references item
);
create index item_code_item on item_code (item_id);

create function touch_item() returns trigger language plpgsql as $$
begin
  new.revision := nextval('catalogue_revision');
  return new;
end $$;
create trigger item_touched before update on item for each row execute function touch_item();

-- Maintained from stock_move in the same transaction.
create table stock_level (
  item_id integer not null references item,
  place_id integer not null references place,
  quantity bigint not null,
  primary key (item_id, place_id)
);

create table stock_move (
  id bigint generated always as identity primary key,
  item_id integer not null references item,
  place_id integer not null references place,
  quantity bigint not null check (quantity <> 0),
  reason text not null check (reason in ('opening', 'sale')),
  sale_id uuid,
  at timestamptz not null
);
create index stock_move_item on stock_move (item_id, place_id);

create trigger stock_move_is_history before update or delete or truncate on stock_move
  for each statement execute function refuse_change();
