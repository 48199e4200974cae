-- A paper or a message is about one thing. What it can be about are its columns that name something, whatever they are:
-- one that is added later counts by itself. The till only says where it is printed.
create function things_named(job jsonb) returns integer language sql immutable strict as $$
  select count(*)::integer from jsonb_each(job) as field (name, value)
  where name like '%\_id' and name <> 'till_id' and value <> 'null'
$$;

alter table outbox
  drop constraint outbox_about_one_thing,
  add constraint outbox_about_one_thing check (things_named(to_jsonb(outbox)) = 1);
alter table print_job
  drop constraint print_job_about_one_thing,
  add constraint print_job_about_one_thing
    check (things_named(to_jsonb(print_job)) = case kind when 'test-page' then 0 else 1 end);
