-- The drawer opened without a sale, and cash that moves without one: who, when and why.

create table drawer_opening (
  id uuid primary key,
  at timestamptz not null,
  till_id integer not null references till,
  shift_id bigint references shift,
  reason text not null check (length(reason) between 1 and 120),
  asked_by integer not null references staff,
  -- Who approved it, where the cashier may not alone.
  countersign_id uuid references countersign
);
create index drawer_opening_shift on drawer_opening (shift_id);
create trigger drawer_opening_is_history before update or delete or truncate on drawer_opening
  for each statement execute function refuse_change();

create table cash_move (
  id uuid primary key,
  at timestamptz not null,
  till_id integer not null references till,
  shift_id bigint not null references shift,
  kind text not null check (kind in ('in', 'out', 'drop')),
  amount bigint not null check (amount > 0),
  reason text not null check (length(reason) between 1 and 120),
  -- Who it came from or went to.
  person text not null default '' check (length(person) <= 60),
  asked_by integer not null references staff,
  countersign_id uuid references countersign
);
create index cash_move_shift on cash_move (shift_id);
create trigger cash_move_is_history before update or delete or truncate on cash_move
  for each statement execute function refuse_change();

alter table ledger_event add column cash_move_id uuid references cash_move;

alter table print_job add column opening_id uuid references drawer_opening;
alter table print_job add column cash_move_id uuid references cash_move;
alter table print_job drop constraint print_job_about_one_thing;
alter table print_job add constraint print_job_about_one_thing
  check (num_nonnulls(sale_id, shift_id, held_id, opening_id, cash_move_id) = 1);
alter table print_job drop constraint print_job_kind_check;
alter table print_job add constraint print_job_kind_check
  check (kind in ('receipt', 'copy', 'gift-receipt', 'shift-report', 'hold-ticket', 'drawer-opening', 'cash-slip'));

alter table ledger_event drop constraint ledger_event_kind_check;
alter table ledger_event add constraint ledger_event_kind_check
  check (kind in ('opening', 'shift-opened', 'sale', 'cash-move', 'shift-closed'));

insert into role_right (role, "right")
select role, 'drawer.cash-move' from unnest(array['supervisor', 'manager']) as role where exists (select 1 from shop)
union all
select role, 'drawer.drop' from unnest(array['cashier', 'supervisor', 'manager']) as role
where exists (select 1 from shop);
