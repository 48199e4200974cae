-- The records of one person: the one that stands, and those that were merged into it.
create or replace function one_person(of_customer integer) returns integer[] language sql stable as $$
  select array_agg(id) from customer where id = of_customer or merged_into = of_customer
$$;
