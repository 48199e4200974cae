-- Payment: means that the shop defines, payments as they are being taken, terminals, stored value, settlements.

create table tender_type (
  id integer generated always as identity primary key,
  name text not null check (length(name) between 1 and 40),
  kind text not null check (kind in ('cash', 'card', 'stored-value', 'noted-card', 'cheque', 'transfer', 'foreign-cash', 'voucher')),
  position smallint not null,
  active boolean not null default true,
  -- What must be typed; empty where nothing is.
  reference text not null default '' check (length(reference) <= 40),
  counted boolean not null default false,
  opens_drawer boolean not null default false,
  foreign_currency text check (foreign_currency ~ '^[A-Z]{3}$'),
  -- What one unit is worth, in millionths of one of the shop's own.
  foreign_rate bigint check (foreign_rate > 0),
  check ((kind = 'foreign-cash') = (foreign_currency is not null and foreign_rate is not null))
);
create unique index tender_type_name on tender_type (lower(name));
create unique index tender_type_once on tender_type (kind) where kind in ('cash', 'card', 'stored-value');
insert into tender_type (name, kind, position, reference, counted, opens_drawer) values
  ('Cash', 'cash', 1, '', true, true),
  ('Card', 'card', 2, '', false, false),
  ('Gift card or certificate', 'stored-value', 3, '', false, false),
  ('Card, other terminal', 'noted-card', 4, 'Approval code', true, false),
  ('Cheque', 'cheque', 5, 'Cheque number', true, true),
  ('Bank transfer', 'transfer', 6, 'Transfer reference', false, false);

-- Where rounded-up change goes.
create table fund (
  id integer generated always as identity primary key,
  name text not null unique check (length(name) between 1 and 80),
  active boolean not null default true
);

alter table shop
  add column round_up_step bigint not null default 0 check (round_up_step >= 0),
  add column tip_rates integer[] not null default '{}',
  add column cash_rounding bigint not null default 0 check (cash_rounding >= 0),
  -- After so many months a new gift card expires; after so many without use it is dormant. Null is never.
  add column gift_card_months integer check (gift_card_months > 0),
  add column dormant_months integer check (dormant_months > 0),
  add column gift_card_item_id integer references item,
  add column receipt_logo text not null default '',
  add column receipt_terms jsonb not null default '{}',
  add column mail_from text not null default 'shop@localhost.example',
  add column receipt_locale text not null default 'en-US';

-- Terminals: each stands in a place, and is offered to tills in an order.
create table terminal (
  id integer generated always as identity primary key,
  serial text not null unique,
  name text not null unique check (length(name) between 1 and 40),
  active boolean not null default true,
  settled_at timestamptz
);
create table till_terminal (
  till_id integer not null references till,
  terminal_id integer not null references terminal,
  position smallint not null default 1,
  primary key (till_id, terminal_id)
);

-- Gift cards, certificates and store credit. The balance is the sum of the moves.
create table stored_value (
  id integer generated always as identity primary key,
  number text not null unique check (number = upper(number) and length(number) between 4 and 40),
  kind text not null check (kind in ('gift-card', 'certificate', 'store-credit')),
  state text not null default 'active' check (state in ('active', 'frozen', 'closed')),
  balance bigint not null default 0 check (balance >= 0),
  single_use boolean not null default false,
  customer_id integer references customer,
  mail text not null default '',
  expires_on date,
  issued_at timestamptz not null,
  used_at timestamptz not null,
  moved_to integer references stored_value,
  check (state <> 'closed' or balance = 0),
  check (kind <> 'store-credit' or customer_id is not null)
);
create index stored_value_customer on stored_value (customer_id) where customer_id is not null;
create index stored_value_issued on stored_value (issued_at desc);

create table stored_value_move (
  id bigint generated always as identity primary key,
  stored_value_id integer not null references stored_value,
  kind text not null check (kind in
    ('opening', 'sold', 'topped up', 'redeemed', 'rest lapsed', 'given back', 'moved in', 'moved out', 'expired')),
  amount bigint not null check (amount <> 0),
  sale_id uuid references sale,
  staff_id integer references staff,
  at timestamptz not null
);
create index stored_value_move_of on stored_value_move (stored_value_id, id);
create index stored_value_move_sale on stored_value_move (sale_id) where sale_id is not null;
create trigger stored_value_move_is_history before update or delete or truncate on stored_value_move
  for each statement execute function refuse_change();

-- A card that a customer has agreed to leave on file, as the bank's token.
create table card_on_file (
  id integer generated always as identity primary key,
  customer_id integer not null references customer,
  token text not null,
  brand text not null,
  last_four text not null check (length(last_four) <= 4),
  agreed_at timestamptz not null,
  agreed_with integer not null references staff,
  dropped_at timestamptz
);
create index card_on_file_customer on card_on_file (customer_id) where dropped_at is null;

-- A basket that money is being taken for: from the first payment to the finished sale.
create table payment (
  basket_id uuid primary key,
  till_id integer not null references till,
  staff_id integer not null references staff,
  -- The basket as the last payment was asked for, and what it came to with its donation.
  basket jsonb not null,
  due bigint not null,
  state text not null default 'open' check (state in ('open', 'finished')),
  began_at timestamptz not null,
  -- The basket was changed since: what it came to then counts no more.
  stale boolean not null default false
);
create index payment_open on payment (till_id) where state = 'open';

create table payment_tender (
  id uuid primary key,
  basket_id uuid not null references payment,
  position smallint not null,
  type_id integer not null references tender_type,
  state text not null check (state in
    ('stored', 'asked', 'approved', 'declined', 'cancelled', 'unanswered', 'abandoned', 'undoing', 'undone')),
  amount bigint not null check (amount > 0),
  -- What was asked for; a terminal may approve a part.
  asked bigint not null check (asked > 0),
  handed bigint not null,
  tip bigint not null default 0 check (tip >= 0),
  round_up bigint not null default 0 check (round_up >= 0),
  reference text not null default '',
  -- What was counted in another currency, minor units of it.
  foreign_amount bigint,
  words text not null default '',
  stored_value_id integer references stored_value,
  terminal_id integer references terminal,
  not_present boolean not null default false,
  -- Whether the terminal may ask for a round-up: the customer is asked once.
  ask_round_up boolean not null default true,
  card_on_file_id integer references card_on_file,
  -- What the terminal said of the card: never a number.
  token text,
  brand text,
  last_four text check (length(last_four) <= 4),
  card_kind text,
  entry text,
  approval text,
  signature text not null default '',
  staff_id integer not null references staff,
  at timestamptz not null,
  changed_at timestamptz not null,
  unique (basket_id, position)
);
create index payment_tender_at on payment_tender (at desc) where terminal_id is not null;
create index payment_tender_pending on payment_tender (state) where state in ('stored', 'asked', 'unanswered', 'abandoned', 'undoing');
create index payment_tender_value on payment_tender (stored_value_id) where stored_value_id is not null;

-- Every state that a payment went through.
create table payment_step (
  id bigint generated always as identity primary key,
  tender_id uuid not null references payment_tender,
  state text not null,
  words text not null default '',
  at timestamptz not null default now()
);
create index payment_step_of on payment_step (tender_id, id);
create trigger payment_step_is_history before update or delete or truncate on payment_step
  for each statement execute function refuse_change();

create function note_payment_step() returns trigger language plpgsql as $$
begin
  if tg_op = 'INSERT' or new.state <> old.state then
    insert into payment_step (tender_id, state, words, at) values (new.id, new.state, new.words, new.changed_at);
  end if;
  return null;
end $$;
create trigger payment_tender_steps after insert or update on payment_tender
  for each row execute function note_payment_step();

-- What a finished sale was paid with.
alter table tender drop constraint tender_kind_check;
alter table tender
  add constraint tender_kind_check check (kind in
    ('cash', 'card', 'stored-value', 'noted-card', 'cheque', 'transfer', 'foreign-cash', 'voucher')),
  add column type_id integer references tender_type,
  add column name text not null default 'Cash',
  add column tip bigint not null default 0 check (tip >= 0),
  add column reference text not null default '',
  add column foreign_amount bigint,
  add column stored_value_id integer references stored_value,
  add column payment_tender_id uuid unique references payment_tender;

alter table sale
  add column donation bigint not null default 0 check (donation >= 0),
  add column fund_id integer references fund,
  add column cash_rounding bigint not null default 0,
  add constraint sale_fund check ((donation > 0) = (fund_id is not null));

alter table sale_line add column stored_value_id integer references stored_value;

-- What the bank paid out.
create table settlement (
  id integer generated always as identity primary key,
  terminal_id integer not null references terminal,
  batch text not null,
  at timestamptz not null,
  gross bigint not null,
  fees bigint not null,
  count integer not null,
  staff_id integer references staff,
  unique (terminal_id, batch)
);
create table settlement_entry (
  settlement_id integer not null references settlement,
  reference uuid not null,
  -- The payment it is for, where the till knows one.
  tender_id uuid references payment_tender,
  amount bigint not null,
  fee bigint not null,
  primary key (settlement_id, reference)
);
create trigger settlement_is_history before update or delete or truncate on settlement
  for each statement execute function refuse_change();

-- What goes out by mail or as a text message.
create table outbox (
  id bigint generated always as identity primary key,
  kind text not null check (kind in ('mail', 'text')),
  recipient text not null check (length(recipient) between 3 and 200),
  subject text not null default '',
  -- What it is about: one of these.
  sale_id uuid references sale,
  stored_value_id integer references stored_value,
  state text not null default 'waiting' check (state in ('waiting', 'sent', 'failed')),
  trouble text not null default '',
  asked_at timestamptz not null,
  sent_at timestamptz,
  check (num_nonnulls(sale_id, stored_value_id) = 1)
);
create index outbox_waiting on outbox (id) where state = 'waiting';
create index outbox_sale on outbox (sale_id) where sale_id is not null;

alter table customer add column receipt_by text not null default 'print' check (receipt_by in ('print', 'mail', 'text', 'none'));

alter table print_job drop constraint print_job_kind_check;
alter table print_job add constraint print_job_kind_check
  check (kind in ('receipt', 'copy', 'gift-receipt', 'shift-report', 'hold-ticket', 'drawer-opening', 'cash-slip', 'drawer-only', 'gift-card'));
alter table print_job add column stored_value_id integer references stored_value;
-- The drawer opens for cash that is a part of what is due.
alter table print_job add column payment_tender_id uuid references payment_tender;
alter table print_job drop constraint print_job_about_one_thing;
alter table print_job add constraint print_job_about_one_thing
  check (num_nonnulls(sale_id, shift_id, held_id, opening_id, cash_move_id, stored_value_id, payment_tender_id) = 1);

alter table ledger_event drop constraint ledger_event_kind_check;
alter table ledger_event add constraint ledger_event_kind_check
  check (kind in ('opening', 'shift-opened', 'sale', 'cash-move', 'shift-closed', 'settlement', 'stored-value'));

-- Gift cards are sold as this item; a new shop gets it when it is set up.
insert into category (name) select 'Gift cards' where exists (select 1 from shop) on conflict do nothing;
insert into item (number, name, category_id, tax_category_id, price, stocked)
select 'GIFT', 'Gift card', (select id from category where name = 'Gift cards'), (select min(id) from tax_category), null, false
where exists (select 1 from shop);
update shop set gift_card_item_id = (select id from item where number = 'GIFT');

insert into role_right (role, "right")
select role, word from (values
  ('cashier', 'payment.undo'), ('supervisor', 'payment.undo'), ('manager', 'payment.undo'),
  ('supervisor', 'gift-card.manage'), ('manager', 'gift-card.manage'),
  ('supervisor', 'card.list'), ('manager', 'card.list')) as granted (role, word)
where exists (select 1 from shop);
