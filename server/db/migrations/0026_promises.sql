-- Things promised to a customer: goods that are set aside, deposits that are held for them, and what became of them.

-- What is printed and what is posted are rows, laid from core: a new kind needs no change here.
create table print_job_kind (name text primary key);
insert into print_job_kind values
  ('receipt'), ('copy'), ('gift-receipt'), ('shift-report'), ('hold-ticket'), ('drawer-opening'), ('cash-slip'),
  ('drawer-only'), ('gift-card'), ('void-slip'), ('handover-slip'), ('test-page');
alter table print_job drop constraint print_job_kind_check;
alter table print_job add foreign key (kind) references print_job_kind;
create table ledger_event_kind (name text primary key);
insert into ledger_event_kind values
  ('opening'), ('shift-opened'), ('sale'), ('void'), ('cash-move'), ('correction'), ('shift-closed'), ('settlement'),
  ('stored-value');
alter table ledger_event drop constraint ledger_event_kind_check;
alter table ledger_event add foreign key (kind) references ledger_event_kind;

-- Promises of a kind are counted without gaps, whatever happens to the server.
create table promise_kind (name text primary key, next_number integer not null default 1);
insert into promise_kind (name) values ('layaway');

create table promise (
  id uuid primary key,
  kind text not null references promise_kind,
  number integer not null,
  customer_id integer not null references customer,
  place_id integer not null references place,
  till_id integer not null references till,
  staff_id integer not null references staff,
  made_at timestamptz not null,
  tax_mode text not null check (tax_mode in ('on-top', 'inside')),
  -- What the goods came to on that day, with tax.
  total bigint not null check (total >= 0),
  -- What is kept when the customer does not take them.
  fee bigint not null default 0 check (fee >= 0),
  note text not null default '' check (length(note) <= 200),
  -- Maintained from the moves and the lines in the same transaction.
  held bigint not null default 0 check (held >= 0),
  paid bigint not null default 0 check (paid >= 0),
  units bigint not null check (units > 0),
  handed bigint not null default 0 check (handed between 0 and units),
  rest bigint not null check (rest >= 0),
  -- The first part of the plan that is not paid; nothing where all is paid, or nothing waits any more.
  next_due date,
  -- The goods still have to come; until then nothing is set aside.
  coming boolean not null default false,
  arrived_at timestamptz,
  told_at timestamptz,
  cancelled_at timestamptz,
  -- What is looked for: number, customer and goods, each word after a space.
  words text not null,
  unique (kind, number),
  check (coming or arrived_at is null)
);
create index promise_open on promise (next_due, made_at) where cancelled_at is null and handed < units;
create index promise_customer on promise (customer_id, made_at desc);
create index promise_made on promise (made_at desc);

-- The baskets whose goods were promised: each is promised once.
create table promise_basket (
  basket_id uuid primary key,
  promise_id uuid not null references promise
);

create table promise_part (
  promise_id uuid not null references promise,
  position smallint not null,
  day date not null,
  amount bigint not null check (amount > 0),
  primary key (promise_id, position)
);
create trigger promise_part_is_history before update or delete or truncate on promise_part
  for each statement execute function refuse_change();

create table promise_line (
  promise_id uuid not null references promise,
  position smallint not null,
  item_id integer not null references item,
  number text not null,
  name text not null,
  unit text not null,
  decimals smallint not null,
  tax_category_id integer not null,
  quantity bigint not null check (quantity > 0),
  unit_price bigint not null,
  regular bigint not null,
  net bigint not null,
  tax bigint not null,
  records jsonb not null default '[]',
  serial text,
  note text not null default '',
  gift boolean not null default false,
  age_checked boolean not null default false,
  bundle text,
  stocked boolean not null,
  handed bigint not null default 0 check (handed between 0 and quantity),
  -- So much of it is kept apart from what can be sold.
  set_aside bigint not null default 0 check (set_aside between 0 and quantity - handed),
  primary key (promise_id, position)
);
create index promise_line_item on promise_line (item_id) where set_aside > 0;

-- The money of a promise. What is held is the sum of the moves.
create table promise_move (
  id bigint generated always as identity primary key,
  promise_id uuid not null references promise,
  kind text not null check (kind in ('deposit', 'used', 'fee', 'back', 'void')),
  amount bigint not null check (amount <> 0 and case kind when 'deposit' then amount > 0 when 'void' then true else amount < 0 end),
  sale_id uuid not null references sale,
  at timestamptz not null
);
create index promise_move_of on promise_move (promise_id, id);
create index promise_move_sale on promise_move (sale_id);
create trigger promise_move_is_history before update or delete or truncate on promise_move
  for each statement execute function refuse_change();

-- What happened to a promise, when, and through whom.
create table promise_event (
  id bigint generated always as identity primary key,
  promise_id uuid not null references promise,
  at timestamptz not null,
  staff_id integer not null references staff,
  what text not null,
  words text not null default '' check (length(words) <= 200),
  sale_id uuid references sale,
  amount bigint
);
create index promise_event_of on promise_event (promise_id, id);
create trigger promise_event_is_history before update or delete or truncate on promise_event
  for each statement execute function refuse_change();

alter table sale_line
  add column promise_id uuid references promise,
  add column promise_part text check (promise_part in ('goods', 'deposit', 'used', 'back', 'fee')),
  add column promise_position smallint,
  add constraint sale_line_promised check ((promise_id is null) = (promise_part is null)
    and (promise_part = 'goods') = (promise_position is not null));
create index sale_line_promise on sale_line (promise_id) where promise_id is not null;

-- On hand stays, available falls.
alter table stock_level add column set_aside bigint not null default 0 check (set_aside >= 0);
alter table serial add column promise_id uuid references promise;

alter table print_job add column promise_id uuid references promise;
alter table print_job drop constraint print_job_about_one_thing;
alter table print_job add constraint print_job_about_one_thing
  check (num_nonnulls(sale_id, shift_id, held_id, opening_id, cash_move_id, stored_value_id, payment_tender_id,
                      handover_id, promise_id) = case kind when 'test-page' then 0 else 1 end);
alter table outbox add column promise_id uuid references promise;
alter table outbox drop constraint outbox_about_one_thing;
alter table outbox add constraint outbox_about_one_thing
  check (num_nonnulls(sale_id, stored_value_id, shift_id, promise_id) = 1);

-- What the shop asks for: the least deposit in millionths of the total, parts, fee, words.
alter table shop
  add column layaway_rules jsonb not null
    default '{"leastDeposit": 200000, "parts": 3, "interval": "month", "fee": 0, "words": ""}',
  add column deposit_item_id integer references item,
  add column fee_item_id integer references item;

-- Deposits and fees are rung up as these items, which are not sold by themselves; a new shop gets them when it is set up.
insert into category (name) select 'Deposits' where exists (select 1 from shop) on conflict do nothing;
insert into item (number, name, category_id, tax_category_id, price, stocked, active)
select number, name, (select id from category where name = 'Deposits'), (select min(id) from tax_category), null, false, false
from (values ('DEPOSIT', 'Deposit'), ('FEE', 'Fee')) as money (number, name)
where exists (select 1 from shop);
update shop set deposit_item_id = (select id from item where number = 'DEPOSIT'),
  fee_item_id = (select id from item where number = 'FEE');
