-- Orders that are passed on to a partner's shop near whoever gets the goods.

create table partner (
  id integer generated always as identity primary key,
  code text not null unique check (code ~ '^[A-Z0-9]{2,12}$'),
  name text not null check (length(name) between 1 and 80),
  city text not null default '' check (length(city) <= 80),
  phone text not null default '' check (length(phone) <= 40),
  -- Beginnings of the postcodes that it delivers to; none is everywhere.
  postcodes text[] not null default '{}',
  timezone text not null,
  -- From Monday to Sunday: until when it takes orders for that day, `HH:MM`, or null where it delivers nothing.
  cut_offs jsonb not null check (jsonb_array_length(cut_offs) = 7),
  -- What it takes, in words.
  takes text not null default '' check (length(takes) <= 200),
  -- What of the price is its own, in millionths, where nothing else is agreed.
  rate bigint not null check (rate between 0 and 1000000),
  active boolean not null default true
);

alter table promise
  -- Of a relay, how its last try stands.
  add column relay_state text check (relay_state in ('waiting', 'sent', 'accepted', 'refused', 'delivered')),
  add check ((kind = 'relay') = (relay_state is not null));
alter table promise drop column attends;
-- Whether it wants attention on any day, while something of it waits: the same as `wantsAttention`, which a test compares.
alter table promise add column attends boolean generated always as (
  case kind when 'order' then paid < first_payment or unready > 0 or ships
    when 'relay' then paid < first_payment or relay_state in ('refused', 'delivered')
    else held >= rest or (handed = 0 and told_at is null and (paid = 0 or arrived_at is not null)) end) stored;

create table relay (
  promise_id uuid primary key references promise,
  recipient text not null check (length(recipient) between 1 and 80),
  street text not null check (length(street) <= 120),
  postcode text not null check (length(postcode) <= 12),
  city text not null check (length(city) <= 80),
  phone text not null default '' check (length(phone) <= 40),
  wishes text not null default '' check (length(wishes) <= 200),
  card text not null default '' check (length(card) <= 300),
  -- What is wanted, in words.
  goods text not null check (length(goods) between 1 and 500)
);

-- Each time it was sent: to whom, for which day, and what became of it. It is stored before the hub is asked.
create table relay_try (
  id uuid primary key,
  promise_id uuid not null references relay,
  nth smallint not null,
  partner_id integer not null references partner,
  day date not null,
  -- What of the price is the partner's.
  part bigint not null check (part >= 0),
  state text not null default 'waiting'
    check (state in ('waiting', 'sent', 'accepted', 'refused', 'delivered', 'withdrawn')),
  made_at timestamptz not null,
  staff_id integer not null references staff,
  tries integer not null default 0,
  trouble text not null default '',
  try_at timestamptz,
  settlement_id uuid,
  delivered_at timestamptz,
  unique (promise_id, nth),
  check ((state = 'delivered') = (delivered_at is not null))
);
-- One partner at a time.
create unique index relay_try_open on relay_try (promise_id) where state in ('waiting', 'sent', 'accepted', 'delivered');
create index relay_try_waits on relay_try (made_at) where state = 'waiting';
create index relay_try_of_partner on relay_try (partner_id, delivered_at) where state = 'delivered';

-- What was said both ways, as it came.
create table relay_message (
  id bigint generated always as identity primary key,
  -- What the hub calls what came from there: it comes in once.
  hub_id text unique,
  try_id uuid not null references relay_try,
  kind text not null check (kind in ('accepted', 'refused', 'question', 'note', 'delivered', 'reply', 'withdrawn')),
  words text not null default '' check (length(words) <= 500),
  at timestamptz not null,
  -- Who has said it here; nothing where it came from the partner.
  staff_id integer references staff,
  -- What goes out: until the hub has it.
  sent_at timestamptz,
  tries integer not null default 0,
  try_at timestamptz,
  -- What came in is an alert on every till, until somebody has opened it or put it away for all.
  closed_at timestamptz,
  closed_by integer references staff,
  opened boolean,
  check ((hub_id is null) = (kind in ('reply', 'withdrawn'))),
  check ((closed_at is null) = (opened is null))
);
create index relay_message_of on relay_message (try_id, id);
create index relay_message_out on relay_message (id) where hub_id is null and sent_at is null;
create index relay_message_alert on relay_message (id) where hub_id is not null and closed_at is null;

-- What partners were paid of what is owed to them.
create table partner_settlement (
  id uuid primary key,
  partner_id integer not null references partner,
  month date not null,
  amount bigint not null check (amount > 0),
  at timestamptz not null,
  staff_id integer not null references staff
);
alter table relay_try add foreign key (settlement_id) references partner_settlement;
create trigger partner_settlement_is_history before update or delete or truncate on partner_settlement
  for each statement execute function refuse_change();
