-- How much stock each role puts right alone, by what it cost; nothing is without a limit.
create table role_stock_limit (
  role text primary key check (role in ('cashier', 'supervisor', 'manager')),
  amount bigint check (amount >= 0)
);
insert into role_stock_limit values ('cashier', 5000), ('supervisor', 50000), ('manager', null);

insert into role_right (role, "right") select 'manager', 'stock.large' where exists (select 1 from shop)
on conflict do nothing;

-- Who approved that so much was put right at once.
create table stock_approval (
  event_id bigint primary key references ledger_event,
  countersign_id uuid not null references countersign
);
create trigger stock_approval_is_history before update or delete or truncate on stock_approval
  for each statement execute function refuse_change();
