-- From whom goods come, what is on order with them, and what has been received.
create table supplier (
  id integer generated always as identity primary key,
  number integer not null unique,
  name text not null unique check (length(name) between 1 and 80),
  active boolean not null default true,
  contact text not null default '' check (length(contact) <= 80),
  email text not null default '' check (length(email) <= 120),
  phone text not null default '' check (length(phone) <= 40),
  street text not null default '' check (length(street) <= 120),
  postcode text not null default '' check (length(postcode) <= 12),
  city text not null default '' check (length(city) <= 80),
  -- The shop's number with them.
  account text not null default '' check (length(account) <= 40),
  days_to_pay integer not null default 30 check (days_to_pay between 0 and 365),
  -- Days from an order to its goods.
  lead_days integer not null default 7 check (lead_days between 0 and 365),
  words text not null default '' check (length(words) <= 400),
  version integer not null default 1,
  added_at timestamptz not null
);
create sequence supplier_number;

create table item_supplier (
  item_id integer not null references item,
  supplier_id integer not null references supplier,
  -- The first is ordered from.
  rank smallint not null check (rank >= 1),
  -- Its number with them, what a unit costs there, how many come in a pack, the least they send.
  number text not null default '' check (length(number) <= 40),
  cost bigint check (cost >= 0),
  pack bigint not null default 1000 check (pack between 1 and 2000000000),
  least bigint not null default 0 check (least between 0 and 2000000000),
  primary key (item_id, supplier_id)
);
create index item_supplier_supplier on item_supplier (supplier_id, item_id);

-- When an item is ordered again for a place, and up to how much.
create table reorder_point (
  item_id integer not null references item,
  place_id integer not null references place,
  point bigint not null check (point >= 0),
  target bigint not null check (target >= point and target > 0),
  primary key (item_id, place_id)
);
create index reorder_point_place on reorder_point (place_id, item_id);

create sequence purchase_order_number;
create table purchase_order (
  id integer generated always as identity primary key,
  number integer not null unique,
  supplier_id integer not null references supplier,
  place_id integer not null references place,
  state text not null check (state in ('draft', 'sent', 'closed')),
  expected_on date,
  words text not null default '' check (length(words) <= 400),
  made_at timestamptz not null,
  made_by integer not null references staff,
  sent_at timestamptz,
  closed_at timestamptz,
  version integer not null default 1,
  check (state <> 'sent' or sent_at is not null),
  check ((state = 'closed') = (closed_at is not null))
);
create index purchase_order_open on purchase_order (supplier_id) where state <> 'closed';
create table purchase_order_line (
  order_id integer not null references purchase_order,
  position smallint not null check (position >= 1),
  item_id integer not null references item,
  quantity bigint not null check (quantity between 1 and 2000000000),
  unit_cost bigint check (unit_cost >= 0),
  received bigint not null default 0 check (received >= 0),
  -- Why so much was suggested.
  reason text not null default '',
  primary key (order_id, position),
  unique (order_id, item_id)
);
create index purchase_order_line_item on purchase_order_line (item_id);

create sequence goods_receipt_number;
create table goods_receipt (
  id integer generated always as identity primary key,
  number integer not null unique,
  order_id integer references purchase_order,
  supplier_id integer not null references supplier,
  place_id integer not null references place,
  delivery_note text not null default '' check (length(delivery_note) <= 60),
  freight bigint not null default 0 check (freight >= 0),
  spread_by text not null default 'value' check (spread_by in ('value', 'weight', 'quantity')),
  event_id bigint not null references ledger_event,
  at timestamptz not null,
  staff_id integer not null references staff,
  -- The supplier's invoice, which may come later.
  invoice_number text check (length(invoice_number) between 1 and 60),
  invoice_event bigint references ledger_event,
  invoiced_at timestamptz,
  invoice_total bigint,
  version integer not null default 1,
  check ((invoice_number is null) = (invoiced_at is null) and (invoice_number is null) = (invoice_total is null))
);
create index goods_receipt_order on goods_receipt (order_id);
create index goods_receipt_supplier on goods_receipt (supplier_id, at desc);
create table goods_receipt_line (
  receipt_id integer not null references goods_receipt,
  position smallint not null check (position >= 1),
  item_id integer not null references item,
  quantity bigint not null check (quantity between 1 and 2000000000),
  -- How many of them were broken.
  damaged bigint not null default 0 check (damaged between 0 and quantity),
  -- What the goods cost, and their part of the freight.
  goods_cost bigint not null,
  freight bigint not null default 0,
  layer_id bigint not null references stock_layer,
  primary key (receipt_id, position)
);
create index goods_receipt_line_layer on goods_receipt_line (layer_id);

-- An order goes out by mail.
alter table outbox add column purchase_order_id integer references purchase_order,
  drop constraint outbox_about_one_thing,
  add constraint outbox_about_one_thing
    check (num_nonnulls(sale_id, stored_value_id, shift_id, promise_id, account_id, customer_id, purchase_order_id) = 1);

insert into ledger_event_kind values ('receipt'), ('invoice'), ('cost-corrected'), ('count') on conflict do nothing;
insert into role_right (role, "right") select distinct role, added from role_right,
  unnest(array['goods.order', 'goods.receive', 'stock.count']) as added
where "right" = 'goods.edit' on conflict do nothing;
insert into role_right (role, "right") select role, 'stock.count' from role_right where "right" = 'sell' on conflict do nothing;
insert into role_right (role, "right") select role, 'goods.cost' from role_right where "right" = 'goods.import' on conflict do nothing;
