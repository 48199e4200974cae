-- The shop, where it sells, who works there, and what tax is due.

create table shop (
  id integer primary key default 1 check (id = 1),
  name text not null check (length(name) between 1 and 80),
  currency text not null check (currency ~ '^[A-Z]{3}$'),
  locale text not null default 'en-US',
  timezone text not null default 'UTC',
  tax_mode text not null check (tax_mode in ('on-top', 'inside')),
  tax_rounding text not null default 'sale' check (tax_rounding in ('sale', 'line')),
  receipt_words text[] not null default '{}',
  receipt_thanks text not null default '',
  opening_float bigint not null default 0 check (opening_float >= 0),
  lock_minutes integer not null default 5 check (lock_minutes between 0 and 240),
  demo boolean not null default false
);

create table place (
  id integer generated always as identity primary key,
  name text not null unique check (length(name) between 1 and 80),
  kind text not null check (kind in ('shop', 'stock'))
);

create table till (
  id integer generated always as identity primary key,
  number integer not null unique check (number between 1 and 999),
  place_id integer not null references place,
  next_receipt integer not null default 1 check (next_receipt > 0),
  next_shift integer not null default 1 check (next_shift > 0),
  wrong_pins integer not null default 0 check (wrong_pins >= 0),
  pin_blocked_until timestamptz
);

create table staff (
  id integer generated always as identity primary key,
  name text not null check (length(name) between 1 and 60),
  role text not null check (role in ('cashier', 'supervisor', 'manager')),
  pin_key text not null,
  pin_salt text not null,
  pin_hash text not null,
  active boolean not null default true
);
create unique index staff_pin on staff (pin_key) where active;

-- The secret under which PINs can be looked up without being stored.
create table pin_secret (
  id integer primary key default 1 check (id = 1),
  secret text not null
);

create table role_right (
  role text not null check (role in ('cashier', 'supervisor', 'manager')),
  "right" text not null,
  primary key (role, "right")
);

create table session (
  token_hash text primary key,
  staff_id integer not null references staff,
  till_id integer not null references till,
  started_at timestamptz not null,
  ended_at timestamptz
);

create table audit (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  staff_id integer references staff,
  till_id integer references till,
  what text not null,
  details jsonb not null default '{}'
);

create table tax_category (
  id integer generated always as identity primary key,
  name text not null unique check (length(name) between 1 and 60)
);

create table tax_rate (
  id integer generated always as identity primary key,
  tax_category_id integer not null references tax_category,
  name text not null check (length(name) between 1 and 60),
  rate integer not null check (rate between 0 and 1000000)
);

-- What has been answered to a write, so that asking again changes nothing.
create table idempotency (
  key uuid primary key,
  route text not null,
  request_hash text not null,
  answer jsonb,
  at timestamptz not null
);
create index idempotency_at on idempotency (at);

create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception '% is history and cannot be changed', tg_table_name using errcode = 'MH001';
end $$;

create trigger audit_is_history before update or delete or truncate on audit
  for each statement execute function refuse_change();
