-- Gift cards, certificates and store credit that a sale was paid with, or that a refund goes onto.
create or replace function pay_with_values(sale_data jsonb) returns void language plpgsql as $$
declare
  new_id uuid := (sale_data->>'id')::uuid;
  at_till integer := (sale_data->>'tillId')::integer;
  finished timestamptz := (sale_data->>'at')::timestamptz;
  going record;
  value record;
begin
  for going in
    select stored_value_id as id, sum(tender.amount) as amount, coalesce(sum(lapses), 0) as lapses
    from tender left join jsonb_to_recordset(sale_data->'tenders') as paid (position smallint, lapses bigint)
      using (position)
    where sale_id = new_id and stored_value_id is not null group by 1 order by 1
  loop
    if going.amount < 0 then
      update stored_value set balance = balance - going.amount, used_at = finished,
        state = case state when 'closed' then 'active' else state end
      where id = going.id and state <> 'frozen' and moved_to is null;
      if not found then
        raise exception 'a card takes no money back' using errcode = 'MH007';
      end if;
      insert into stored_value_move (stored_value_id, kind, amount, sale_id, staff_id, at)
      values (going.id, 'refunded', -going.amount, new_id, (sale_data->>'staffId')::integer, finished);
      continue;
    end if;
    -- Never below zero: the check on the table refuses it.
    update stored_value set balance = balance - going.amount, used_at = finished where id = going.id
    returning * into value;
    insert into stored_value_move (stored_value_id, kind, amount, sale_id, staff_id, at)
    values (going.id, 'redeemed', -going.amount, new_id, (sale_data->>'staffId')::integer, finished);
    -- The books were told of just this rest; meanwhile somebody paid with it or put it back.
    if going.lapses <> (case when value.single_use then value.balance else 0 end) then
      raise exception 'what is left on it has changed' using errcode = 'MH007';
    end if;
    if going.lapses > 0 then
      insert into stored_value_move (stored_value_id, kind, amount, sale_id, staff_id, at)
      values (going.id, 'rest lapsed', -going.lapses, new_id, (sale_data->>'staffId')::integer, finished);
    end if;
    if value.single_use or (value.kind = 'certificate' and value.balance = 0) then
      update stored_value set balance = 0, state = 'closed' where id = going.id;
    end if;
  end loop;
end $$;
