-- Baskets put aside for a moment.

create sequence held_ticket;

create table held_basket (
  id uuid primary key,
  ticket integer not null unique default nextval('held_ticket'),
  name text not null default '' check (length(name) <= 60),
  note text not null default '' check (length(note) <= 200),
  content jsonb not null,
  basket_id uuid generated always as ((content->>'id')::uuid) stored,
  total bigint not null,
  held_at timestamptz not null,
  held_by integer not null references staff,
  held_on integer not null references till,
  -- Meant for one till, where somebody sends a basket over; any till may take it all the same.
  for_till integer references till,
  taken_at timestamptz,
  taken_by integer references staff,
  taken_on integer references till,
  check ((taken_at is null) = (taken_by is null) and (taken_at is null) = (taken_on is null))
);
create index held_basket_waiting on held_basket (held_at) where taken_at is null;
-- A basket waits once.
create unique index held_basket_once on held_basket (basket_id) where taken_at is null;

alter table print_job add column held_id uuid references held_basket;
alter table print_job drop constraint print_job_check;
alter table print_job add constraint print_job_about_one_thing
  check (num_nonnulls(sale_id, shift_id, held_id) = 1);
