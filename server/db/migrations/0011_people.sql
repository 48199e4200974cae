-- Customers: who they are, which groups they belong to, and prices for groups.

create table customer_group (
  id integer generated always as identity primary key,
  name text not null unique check (length(name) between 1 and 60)
);

create table customer (
  id integer generated always as identity primary key,
  name text not null check (length(name) between 1 and 120),
  company text not null default '' check (length(company) <= 120),
  phone text not null default '' check (length(phone) <= 40),
  mail text not null default '' check (length(mail) <= 120),
  birth_month smallint check (birth_month between 1 and 12),
  birth_day smallint check (birth_day between 1 and 31),
  note text not null default '' check (length(note) <= 500),
  -- The words under which they are found, each after a space.
  words text not null,
  added_at timestamptz not null,
  check ((birth_month is null) = (birth_day is null))
);
create index customer_name on customer (name);

create table customer_membership (
  customer_id integer not null references customer,
  group_id integer not null references customer_group,
  primary key (customer_id, group_id)
);

-- A plastic card's code belongs to one customer; a lost card is replaced and means nobody any more.
create table customer_card (
  code text primary key check (length(code) between 1 and 40),
  customer_id integer not null references customer,
  replaced_at timestamptz
);
create index customer_card_customer on customer_card (customer_id);

create table group_price (
  group_id integer not null references customer_group,
  item_id integer not null references item,
  price bigint not null check (price >= 0),
  primary key (group_id, item_id)
);

alter table sale add column customer_id integer references customer;
create index sale_customer on sale (customer_id, finished_at desc) where customer_id is not null;

-- What customers owed and held when the shop began with Mondrel.
alter table ledger_event drop constraint ledger_event_kind_check;
alter table ledger_event add constraint ledger_event_kind_check
  check (kind in ('opening', 'shift-opened', 'sale', 'shift-closed'));
