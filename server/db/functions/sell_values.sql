-- A gift card is active from the moment in which it is paid for; a number can be sold once.
create or replace function sell_values(sale_data jsonb) returns void language plpgsql as $$
declare
  new_id uuid := (sale_data->>'id')::uuid;
  at_till integer := (sale_data->>'tillId')::integer;
  finished timestamptz := (sale_data->>'at')::timestamptz;
  going record;
  value record;
begin
  for going in
    select upper("storedValue"->>'number') as number, "storedValue"->>'kind' as kind,
           coalesce(("storedValue"->>'topUp')::boolean, false) as top_up, coalesce("storedValue"->>'mail', '') as mail,
           net as amount
    from jsonb_to_recordset(sale_data->'lines') as line ("storedValue" jsonb, net bigint)
    where "storedValue" is not null order by 1
  loop
    select * into value from stored_value where number = going.number for update;
    if found <> going.top_up or (found and value.state <> 'active') then
      raise exception '%', going.number using errcode = 'MH006';
    end if;
    if not found then
      insert into stored_value (number, kind, mail, customer_id, expires_on, issued_at, used_at)
      select going.number, going.kind, going.mail, (sale_data->>'customerId')::integer,
             (sale_data->>'businessDate')::date + make_interval(months => gift_card_months), finished, finished
      from shop
      on conflict (number) do nothing
      returning * into value;
      if not found then
        raise exception '%', going.number using errcode = 'MH006';
      end if;
    end if;
    update stored_value set balance = balance + going.amount, used_at = finished where id = value.id;
    insert into stored_value_move (stored_value_id, kind, amount, sale_id, staff_id, at)
    values (value.id, case when going.top_up then 'topped up' else 'sold' end, going.amount, new_id,
            (sale_data->>'staffId')::integer, finished);
    if going.mail <> '' then
      insert into outbox (kind, recipient, subject, stored_value_id, asked_at)
      values ('mail', going.mail, 'Your gift card', value.id, finished);
    end if;
    if not going.top_up then
      insert into print_job (till_id, kind, stored_value_id, asked_at)
        values (at_till, 'gift-card', value.id, finished);
    end if;
  end loop;
end $$;
