-- Orders that are placed elsewhere: at the shop's web site, or wherever else people order.

create table channel (
  id integer generated always as identity primary key,
  name text not null unique check (length(name) between 1 and 60),
  -- What it calls its orders begins with this: `WEB-1001`. One letter alone is a number of the shop's own.
  prefix text not null unique check (prefix ~ '^[A-Z]{2,5}$'),
  -- SHA-256 of the key that it sends with, in hexadecimal, and how the key ends. With the hash it is told under signature.
  key_hash text not null unique,
  key_end text not null,
  -- What is paid for an order before it is picked, as for the shop's own ones.
  pay text not null check (pay in ('full', 'deposit', 'handover')),
  least_deposit bigint not null check (least_deposit between 0 and 1000000),
  -- Where it is told how its orders stand; empty where it is not told.
  address text not null default '' check (length(address) <= 200),
  active boolean not null default true
);

alter table promise
  -- Placed there, and at no till.
  add column channel_id integer references channel,
  alter column till_id drop not null,
  alter column staff_id drop not null,
  add check (num_nonnulls(till_id, channel_id) = 1),
  add check ((till_id is null) = (staff_id is null)),
  -- So much is to be paid before it is picked; where it was excused, nothing.
  add column first_payment bigint not null default 0 check (first_payment >= 0);
update promise set first_payment = 1 where pay_first;
alter table promise drop column attends;
alter table promise drop column pay_first;
-- Whether it wants attention on any day, while something of it waits: the same as `wantsAttention`, which a test compares.
alter table promise add column attends boolean generated always as (
  case kind when 'order' then paid < first_payment or unready > 0 or ships
    else held >= rest or (handed = 0 and told_at is null and (paid = 0 or arrived_at is not null)) end) stored;
create index promise_of_channel on promise (channel_id, made_at desc) where channel_id is not null;

-- Things happen to a promise through somebody, or through the channel it came from.
alter table promise_event alter column staff_id drop not null;
alter table ledger_event alter column staff_id drop not null;

create table channel_order (
  promise_id uuid primary key references promise,
  channel_id integer not null references channel,
  -- What the channel calls it.
  reference text not null unique check (length(reference) <= 30),
  request_hash text not null,
  -- Something of it has changed since it was looked at for something to tell.
  changed boolean not null default true
);
create index channel_order_changed on channel_order (promise_id) where changed;

-- What the channel is told: each stays until the channel has taken it.
create table channel_message (
  id bigint generated always as identity primary key,
  promise_id uuid not null references channel_order,
  state text not null,
  -- What of the payments at the channel has gone back until then.
  given_back bigint not null,
  at timestamptz not null,
  tries integer not null default 0,
  trouble text not null default '',
  try_at timestamptz,
  told_at timestamptz
);
create index channel_message_of on channel_message (promise_id, id);
create index channel_message_waits on channel_message (id) where told_at is null;

-- Money of a promise moves with a sale, or where it was ordered.
alter table promise_move
  alter column sale_id drop not null,
  add column channel_id integer references channel,
  -- What the channel calls the payment.
  add column reference text not null default '' check (length(reference) <= 60),
  add check (num_nonnulls(sale_id, channel_id) = 1 and (channel_id is null or kind in ('deposit', 'back')));
create index promise_move_channel on promise_move (channel_id) where channel_id is not null;

-- What a channel has paid out of what customers paid there.
create table channel_settlement (
  id uuid primary key,
  channel_id integer not null references channel,
  gross bigint not null check (gross > 0),
  fees bigint not null check (fees between 0 and gross),
  at timestamptz not null,
  staff_id integer not null references staff
);
create trigger channel_settlement_is_history before update or delete or truncate on channel_settlement
  for each statement execute function refuse_change();

insert into role_right (role, "right")
select role, 'order.unpaid' from unnest(array['supervisor', 'manager']) as role where exists (select 1 from shop)
on conflict do nothing;
