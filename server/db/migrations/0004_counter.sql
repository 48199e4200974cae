-- Baskets, shifts and finished sales.

create table shift (
  id bigint generated always as identity primary key,
  till_id integer not null references till,
  number integer not null,
  state text not null check (state in ('open', 'closed')),
  opened_at timestamptz not null,
  opened_by integer not null references staff,
  opening_pieces jsonb not null,
  opening_float bigint not null check (opening_float >= 0),
  count_sheet jsonb not null default '{}',
  count_revision integer not null default 0,
  closed_at timestamptz,
  closed_by integer references staff,
  closing jsonb,
  unique (till_id, number),
  check ((state = 'closed') = (closed_at is not null and closed_by is not null and closing is not null))
);
create unique index one_open_shift on shift (till_id) where state = 'open';

create function refuse_closed_shift() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' or old.state = 'closed' then
    raise exception 'a closed shift is history and cannot be changed' using errcode = 'MH001';
  end if;
  return new;
end $$;
create trigger closed_shift_is_history before update or delete on shift
  for each row execute function refuse_closed_shift();

-- The basket that is being rung up on a till. It goes when its sale is finished.
create table basket (
  id uuid primary key,
  till_id integer not null unique references till,
  revision integer not null,
  content jsonb not null,
  changed_at timestamptz not null
);

create table sale (
  id uuid primary key,
  till_id integer not null references till,
  shift_id bigint not null references shift,
  staff_id integer not null references staff,
  number integer not null,
  business_date date not null,
  finished_at timestamptz not null,
  currency text not null,
  tax_mode text not null check (tax_mode in ('on-top', 'inside')),
  regular bigint not null,
  reductions bigint not null,
  tax bigint not null,
  total bigint not null check (total >= 0),
  check (total = regular + reductions + case tax_mode when 'on-top' then tax else 0 end),
  unique (till_id, number)
);
create index sale_finished on sale (finished_at desc);
create index sale_shift on sale (shift_id);

create table sale_line (
  sale_id uuid not null references sale,
  position smallint not null,
  item_id integer not null references item,
  number text not null,
  name text not null,
  unit text not null,
  quantity bigint not null check (quantity <> 0),
  unit_price bigint not null,
  regular bigint not null,
  net bigint not null,
  records jsonb not null default '[]',
  primary key (sale_id, position)
);

create table sale_tax (
  sale_id uuid not null references sale,
  position smallint not null,
  tax_rate_id integer not null references tax_rate,
  name text not null,
  rate integer not null,
  base bigint not null,
  tax bigint not null,
  primary key (sale_id, position)
);

-- `amount` is what the tender pays; cash may have been handed over for more, the rest is change.
create table tender (
  sale_id uuid not null references sale,
  position smallint not null,
  kind text not null check (kind in ('cash')),
  amount bigint not null check (amount > 0),
  handed bigint not null,
  primary key (sale_id, position),
  check (handed >= amount)
);

alter table stock_move add foreign key (sale_id) references sale;
alter table ledger_event add foreign key (sale_id) references sale;
alter table ledger_event add foreign key (shift_id) references shift;
create index ledger_event_shift on ledger_event (shift_id);

create trigger sale_is_history before update or delete or truncate on sale
  for each statement execute function refuse_change();
create trigger sale_line_is_history before update or delete or truncate on sale_line
  for each statement execute function refuse_change();
create trigger sale_tax_is_history before update or delete or truncate on sale_tax
  for each statement execute function refuse_change();
create trigger tender_is_history before update or delete or truncate on tender
  for each statement execute function refuse_change();

-- What waits for a printer. A job is stored with what it is about, so that a crash cannot lose it.
create table print_job (
  id bigint generated always as identity primary key,
  till_id integer not null references till,
  kind text not null check (kind in ('receipt', 'copy', 'shift-report')),
  sale_id uuid references sale,
  shift_id bigint references shift,
  open_drawer boolean not null default false,
  state text not null default 'waiting' check (state in ('waiting', 'printed')),
  asked_at timestamptz not null,
  printed_at timestamptz,
  check ((sale_id is null) <> (shift_id is null))
);
create index print_job_waiting on print_job (id) where state = 'waiting';
