-- Whom an entry of the books is about now: of a customer who was merged, the record that stays.
create or replace function subject_now(subject text) returns text language sql stable as $$
  select case when subject like 'customer:%' then coalesce((
    select 'customer:' || merged_into from customer
    where id = substr(subject, 10)::integer and merged_into is not null), subject) else subject end
$$;
