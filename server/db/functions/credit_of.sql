-- Store credit goes to the customer's own, or begins it. Answers with its number in the list; nothing where none is
-- given.
create or replace function credit_of(sale_data jsonb) returns integer language plpgsql as $$
declare
  finished timestamptz := (sale_data->>'at')::timestamptz;
  going record;
  credit integer;
begin
  for going in
    select "creditNumber" as number, (sale_data->>'customerId')::integer as customer
    from jsonb_to_recordset(sale_data->'tenders') as paid ("creditNumber" text) where "creditNumber" is not null
  loop
    perform 1 from customer where id = going.customer for no key update;
    select id into credit from stored_value
    where customer_id = going.customer and kind = 'store-credit' and state = 'active' order by id limit 1;
    if not found then
      insert into stored_value (number, kind, customer_id, issued_at, used_at)
      values (going.number, 'store-credit', going.customer, finished, finished) returning id into credit;
    end if;
  end loop;
  return credit;
end $$;
