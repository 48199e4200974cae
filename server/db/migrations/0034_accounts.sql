-- House accounts: goods now, money later. What is owed stays open, item by item, until it is paid.

alter table tender_type drop constraint tender_type_kind_check;
alter table tender_type add constraint tender_type_kind_check check (kind in
  ('cash', 'card', 'stored-value', 'account', 'noted-card', 'cheque', 'transfer', 'foreign-cash', 'voucher'));
drop index tender_type_once;
create unique index tender_type_once on tender_type (kind) where kind in ('cash', 'card', 'stored-value', 'account');
insert into tender_type (name, kind, position)
select 'On account' || case when exists (select 1 from tender_type where lower(name) = 'on account') then ' of the house' else '' end,
       'account', (select max(position) + 1 from tender_type);
alter table tender drop constraint tender_kind_check;
alter table tender add constraint tender_kind_check check (kind in
  ('cash', 'card', 'stored-value', 'account', 'noted-card', 'cheque', 'transfer', 'foreign-cash', 'voucher'));

create table account (
  id integer generated always as identity primary key,
  customer_id integer not null unique references customer,
  -- It is the customer's company that owes: the account bears its name.
  of_company boolean not null default false,
  credit_limit bigint not null check (credit_limit between 0 and 1000000000000),
  days_to_pay smallint not null check (days_to_pay between 0 and 366),
  -- Nothing more goes on it; it can be paid.
  blocked boolean not null default false,
  -- What is asked for with every charge: an order number, a class; empty for nothing.
  asks_for text not null default '' check (length(asks_for) <= 40),
  -- Maintained from the items in the same transaction.
  balance bigint not null default 0,
  -- Its owner's record was merged, and all of it went onto another account.
  moved_to integer references account,
  version integer not null default 1,
  opened_at timestamptz not null,
  opened_by integer not null references staff
);
-- Whose name an account bears. @param owner the customer whose it is
create function account_name(of_company boolean, name text, company text) returns text language sql immutable as $$
  select case when of_company and company <> '' then company else name end
$$;
create index account_owing on account (balance) where balance <> 0;

-- Who may charge the account of somebody else, a company's most often, and how much with one purchase.
create table account_buyer (
  account_id integer not null references account,
  customer_id integer not null references customer,
  most bigint check (most > 0),
  primary key (account_id, customer_id)
);
create index account_buyer_customer on account_buyer (customer_id);

create table account_item_kind (name text primary key);

-- What was charged above zero, what was paid below. An item is open until others have taken all that remains of it.
create table account_item (
  id bigint generated always as identity primary key,
  account_id integer not null references account,
  kind text not null references account_item_kind,
  amount bigint not null check (amount <> 0),
  remaining bigint not null,
  -- The shop's days: on which it counts, and by which it is to be paid.
  day date not null,
  due_on date not null,
  sale_id uuid references sale,
  buyer_id integer references customer,
  reference text not null default '' check (length(reference) <= 120),
  words text not null default '' check (length(words) <= 200),
  at timestamptz not null,
  staff_id integer references staff,
  check (case when amount > 0 then remaining between 0 and amount else remaining between amount and 0 end)
);
create index account_item_of on account_item (account_id, day, id);
create index account_item_open on account_item (account_id, due_on, id) where remaining <> 0;
create index account_item_sale on account_item (sale_id) where sale_id is not null;

-- Which item was paid by which; below zero where that was undone.
create table account_match (
  id bigint generated always as identity primary key,
  item_id bigint not null references account_item,
  by_id bigint not null references account_item,
  amount bigint not null check (amount <> 0),
  day date not null,
  at timestamptz not null
);
create index account_match_item on account_match (item_id);
create index account_match_by on account_match (by_id);
create trigger account_match_is_history before update or delete or truncate on account_match
  for each statement execute function refuse_change();

alter table payment_tender add column account_id integer references account;
create index payment_tender_account on payment_tender (account_id) where account_id is not null;
alter table tender
  add column account_id integer references account,
  add constraint tender_on_account check ((kind = 'account') = (account_id is not null));
-- Money that is paid onto an account, or paid out of what is over on it.
alter table sale_line add column account_id integer references account;
create index sale_line_account on sale_line (account_id) where account_id is not null;

-- Money on account is rung up as this item, which is not sold by itself; a new shop gets it when it is set up.
alter table shop
  add column account_item_id integer references item,
  add column account_rules jsonb not null
    default '{"limit": 0, "daysToPay": 30, "sheet": "A4", "howToPay": "", "reminders": [7, 21, 42], "byItself": false}';
insert into category (name) select 'Deposits' where exists (select 1 from shop) on conflict do nothing;
insert into item (number, name, category_id, tax_category_id, price, stocked, active)
select 'ON-ACCOUNT', 'Payment on account', (select id from category where name = 'Deposits'), (select min(id) from tax_category),
       null, false, false
where exists (select 1 from shop) on conflict do nothing;
update shop set account_item_id = (select id from item where number = 'ON-ACCOUNT');

-- Whoever owed something so far has an account from now on, with what they owed on it.
insert into account_item_kind (name) values ('opening');
insert into account (customer_id, credit_limit, days_to_pay, balance, opened_at, opened_by)
select customer.id, greatest(0, held.balance), 30, held.balance, now(), (select min(id) from staff)
from account_balance as held join customer on held.subject = 'customer:' || customer.id
where held.account = 'receivable' and held.balance <> 0;
insert into account_item (account_id, kind, amount, remaining, day, due_on, words, at)
select id, 'opening', balance, balance, current_date, current_date + 30, 'From before', now() from account;

-- Days on which somebody was reminded, and how firmly: once for each.
create table account_reminder (
  account_id integer not null references account,
  step smallint not null check (step > 0),
  day date not null,
  amount bigint not null check (amount > 0),
  at timestamptz not null,
  primary key (account_id, step, day)
);
create trigger account_reminder_is_history before update or delete or truncate on account_reminder
  for each statement execute function refuse_change();

-- What is mailed of an account: its statement for some days, or a reminder.
alter table outbox
  add column account_id integer references account,
  add column about jsonb,
  drop constraint outbox_about_one_thing,
  add constraint outbox_about_one_thing
    check (num_nonnulls(sale_id, stored_value_id, shift_id, promise_id, account_id) = 1);

-- Money that came to the bank, as its list of lines says it: each line once.
create table bank_line (
  id bigint generated always as identity primary key,
  day date not null,
  amount bigint not null check (amount > 0),
  payer text not null default '' check (length(payer) <= 200),
  words text not null default '' check (length(words) <= 500),
  -- The same line in another list is the same money; of two that are alike in one list, each has its place.
  nth smallint not null,
  state text not null default 'open' check (state in ('open', 'booked', 'dropped')),
  item_id bigint unique references account_item,
  added_at timestamptz not null,
  added_by integer not null references staff,
  unique (day, amount, payer, words, nth),
  check ((state = 'booked') = (item_id is not null))
);
create index bank_line_open on bank_line (day, id) where state = 'open';

insert into role_right (role, "right")
select role, word from (values
  ('supervisor', 'account.over-limit'), ('manager', 'account.over-limit'),
  ('supervisor', 'account.pay-out'), ('manager', 'account.pay-out'),
  ('supervisor', 'account.manage'), ('manager', 'account.manage'), ('manager', 'account.write-off')) as granted (role, word)
where exists (select 1 from shop)
on conflict do nothing;
