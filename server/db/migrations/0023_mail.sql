-- Mail names its installation, so that no two in the world have one number; a shop says itself whom mail comes from.
alter table shop
  add column mail_id uuid not null default gen_random_uuid(),
  alter column mail_from set default '';
update shop set mail_from = '' where mail_from = 'shop@localhost.example';

-- What cannot be sent now waits longer each time; what is refused for good is not tried again.
alter table outbox
  add column tries integer not null default 0,
  -- When it is tried again; nothing for one that was not tried yet.
  add column try_at timestamptz;
drop index outbox_waiting;
create index outbox_waiting on outbox (coalesce(try_at, asked_at)) where state = 'waiting';
