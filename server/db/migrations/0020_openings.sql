-- Hours of an offer may go past midnight.
do $$
declare
  named text;
begin
  select conname into named from pg_constraint
   where conrelid = 'offer'::regclass and pg_get_constraintdef(oid) like '%from_time < to_time%';
  execute format('alter table offer drop constraint %I', named);
end $$;

alter table offer add constraint offer_hours
  check ((from_time is null) = (to_time is null) and from_time <> to_time);

-- What was counted when a drawer was opened, against what was left in it and what came from the safe.
alter table shift
  add column opening_variance bigint not null default 0,
  add column opening_from_safe bigint;

-- Whether a drawer may be opened with what was left in it, without counting.
alter table shop add column open_as_left boolean not null default false;
