-- Whatever happens to an order that was placed elsewhere is looked at: it may be something to tell.
create or replace function note_channel_order() returns trigger language plpgsql as $$
begin
  -- Also where it is marked already: whoever looks at it just now waits for this change, or this one for them.
  update channel_order set changed = true where promise_id = new.id;
  return null;
end $$;
create or replace trigger promise_changed after update on promise
  for each row when (new.channel_id is not null) execute function note_channel_order();

-- What a promise still holds of what was paid where it was ordered: what was paid there less what went back there,
-- and no more than is held at all.
create or replace function held_there(of_promise uuid) returns bigint language sql stable as $$
  select greatest(0, least(held, coalesce((select sum(amount) from promise_move
    where promise_id = of_promise and sale_id is null), 0)))::bigint
  from promise where id = of_promise
$$;

-- Money of an order moves where it was ordered: what was paid for it there, or what goes back there, below zero. The
-- channel or the partner owes the shop so much more or less.
create or replace function move_there(of_promise uuid, amount bigint, payment text, at_time timestamptz) returns void
language plpgsql as $$
declare
  ordered promise;
begin
  select * into ordered from promise where id = of_promise;
  if amount = 0 then
    return;
  end if;
  insert into promise_move (promise_id, kind, amount, channel_id, partner_id, reference, at)
  values (of_promise, case when amount > 0 then 'deposit' else 'back' end, amount, ordered.channel_id,
    ordered.partner_id, payment, at_time);
  insert into promise_event (promise_id, at, what, words, amount)
  values (of_promise, at_time, case when ordered.partner_id is not null then
            case when amount > 0 then 'Owed by the partner' else 'No longer owed by the partner' end
            when amount > 0 then 'Paid there' else 'Given back there' end, payment, amount);
  perform post_transfer(case when ordered.partner_id is null then 'channel-payment' else 'partner-order' end, at_time,
    amount, coalesce('channel:' || ordered.channel_id, 'partner:' || ordered.partner_id), 'promise:' || of_promise);
  perform sum_promise(of_promise);
end $$;

-- The partner who has passed an order to the shop is told something of it; nothing of others.
create or replace function tell_partner(of_promise uuid, said text, in_words text, at_time timestamptz,
  by_staff integer)
returns void language sql as $$
  insert into relay_message (order_id, kind, words, at, staff_id)
  select promise_id, said, in_words, at_time, by_staff from partner_order where promise_id = of_promise
$$;
