-- The last try of a relay stands so from now on, and with it the relay.
create or replace function put_relay_state(of_try uuid, new_state text,
  at_time timestamptz) returns void language plpgsql as $$
declare
  of_promise uuid;
begin
  update relay_try set state = new_state, trouble = '',
    delivered_at = case when new_state = 'delivered' then at_time end
  where id = of_try returning promise_id into of_promise;
  update promise set relay_state = case new_state when 'withdrawn' then 'refused' else new_state end
    where id = of_promise;
end $$;

-- What is under way of a relay is taken back: its partner is told, if the hub was ever asked; it may have got it.
create or replace function withdraw_relay(of_promise uuid, by_staff integer, at_time timestamptz) returns void
language plpgsql as $$
declare
  open_try record;
begin
  select * into open_try from relay_try where promise_id = of_promise and state in ('waiting', 'sent');
  if not found then
    return;
  end if;
  if open_try.state = 'sent' or open_try.tries > 0 then
    insert into relay_message (try_id, kind, at, staff_id) values (open_try.id, 'withdrawn', at_time, by_staff);
  end if;
  perform put_relay_state(open_try.id, 'withdrawn', at_time);
end $$;
