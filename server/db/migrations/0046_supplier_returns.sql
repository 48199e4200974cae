-- Goods of a delivery that go back to their supplier, who owes the shop for them.
create sequence supplier_return_number;
create table supplier_return (
  id integer generated always as identity primary key,
  number integer not null unique,
  receipt_id integer not null references goods_receipt,
  words text not null default '' check (length(words) <= 200),
  event_id bigint not null references ledger_event,
  at timestamptz not null,
  staff_id integer not null references staff
);
create index supplier_return_receipt on supplier_return (receipt_id);
create index supplier_return_event on supplier_return (event_id);
create table supplier_return_line (
  return_id integer not null references supplier_return,
  -- The line of the delivery.
  position smallint not null,
  item_id integer not null references item,
  quantity bigint not null check (quantity between 1 and 2000000000),
  serials text[] not null default '{}',
  primary key (return_id, position)
);
create index goods_receipt_event on goods_receipt (event_id);
create index stock_count_event on stock_count (event_id) where event_id is not null;

insert into ledger_event_kind values ('supplier-return') on conflict do nothing;
