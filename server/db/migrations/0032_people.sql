-- The directory: what more is known of customers, who changed it, groups that fill themselves, and records that were
-- one person or are to be forgotten.

alter table customer
  -- The name as lists sort it: lower case, in plain letters.
  add column sort_name text not null default '',
  -- A number and a mail address as they are compared.
  add column phone_digits text not null generated always as (regexp_replace(phone, '[^0-9]', '', 'g')) stored,
  add column mail_lower text not null generated always as (lower(mail)) stored,
  add column news boolean not null default false,
  add column news_on date,
  add column news_how text not null default '' check (length(news_how) <= 120),
  -- Counts what was changed: two who change the same record at once hear of each other.
  add column version integer not null default 1,
  -- When they last bought something or brought it back.
  add column seen_at timestamptz,
  -- The record under which everything is found now: both were one person.
  add column merged_into integer references customer,
  add column forgotten_at timestamptz,
  add column gone boolean not null generated always as (merged_into is not null or forgotten_at is not null) stored,
  add check (merged_into <> id);
update customer set sort_name = lower(name);
update customer set seen_at = seen.at
from (select customer_id, max(finished_at) as at from sale where customer_id is not null group by 1) as seen
where seen.customer_id = customer.id;

drop index customer_name;
create index customer_sort on customer (sort_name, id) where not gone;
create index customer_seen on customer (seen_at desc nulls last, id) where not gone;
create index customer_points on customer (points desc, id) where not gone;
create index customer_added on customer (added_at desc, id) where not gone;
create index customer_phone on customer (phone_digits) where phone_digits <> '';
create index customer_mail on customer (mail_lower) where mail_lower <> '';
create index customer_merged on customer (merged_into) where merged_into is not null;

create function note_visit() returns trigger language plpgsql as $$
begin
  update customer set seen_at = new.finished_at
  where id = new.customer_id and (seen_at is null or seen_at < new.finished_at);
  return null;
end $$;
create trigger sale_is_a_visit after insert on sale
  for each row when (new.customer_id is not null) execute function note_visit();

create table customer_address (
  customer_id integer not null references customer,
  position smallint not null check (position between 0 and 4),
  recipient text not null check (length(recipient) <= 80),
  street text not null check (length(street) <= 120),
  postcode text not null check (length(postcode) <= 12),
  city text not null check (length(city) <= 80),
  primary key (customer_id, position),
  check (recipient || street || postcode || city <> '')
);

create table customer_tag (
  customer_id integer not null references customer,
  tag text not null check (length(tag) between 1 and 40),
  primary key (customer_id, tag)
);
create index customer_tag_tag on customer_tag (tag);

-- Who changed what of a customer. It goes with the person who is forgotten.
create table customer_change (
  id bigint generated always as identity primary key,
  customer_id integer not null references customer,
  at timestamptz not null,
  -- Nobody, where a rule did it.
  staff_id integer references staff,
  what text not null,
  was text not null,
  became text not null
);
create index customer_change_of on customer_change (customer_id, id desc);

-- A group with a rule fills itself once a day.
alter table customer_group
  add column spent bigint check (spent > 0),
  add column months smallint check (months between 1 and 60),
  add column filled_on date,
  add check ((spent is null) = (months is null));
alter table customer_membership
  add column by_rule boolean not null default false;

alter table customer_card
  add column added_at timestamptz,
  add column added_by integer references staff,
  add column replaced_by integer references staff;
create unique index customer_card_upper on customer_card (upper(code));

alter table points_move drop constraint points_move_reason_check;
create table points_reason (name text primary key);
insert into points_reason (name) select distinct reason from points_move;
alter table points_move add constraint points_move_reason foreign key (reason) references points_reason deferrable initially deferred;

insert into role_right (role, "right")
select role, 'people.edit' from unnest(array['cashier', 'supervisor', 'manager']) as role where exists (select 1 from shop)
on conflict do nothing;
insert into role_right (role, "right")
select 'manager', 'people.manage' where exists (select 1 from shop)
on conflict do nothing;

-- A list of customers on its way in: looked through first, written when somebody accepts it, a part at a time. The list
-- is kept until it is in.
create table customer_import (
  id uuid primary key,
  at timestamptz not null,
  staff_id integer not null references staff,
  name text not null,
  state text not null check (state in ('reading', 'ready', 'writing', 'done', 'dropped', 'unreadable')),
  content text not null,
  headings text[] not null default '{}',
  -- Which column is what; nothing for those that are passed over.
  columns jsonb not null default '[]',
  examples jsonb not null default '[]',
  doubles boolean not null default false,
  rows integer not null default 0,
  looked integer not null default 0,
  written integer not null default 0,
  counts jsonb not null default '{}',
  words text not null default ''
);
-- One at a time.
create unique index customer_import_open on customer_import ((true)) where state in ('reading', 'ready', 'writing');

create table customer_import_line (
  import_id uuid not null references customer_import,
  line integer not null,
  outcome text not null check (outcome in ('new', 'changed', 'double', 'refused')),
  customer_id integer references customer,
  name text not null,
  words text not null,
  primary key (import_id, line)
);
