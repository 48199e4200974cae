-- Whatever happens to an order that was placed elsewhere is looked at: it may be something to tell.
create or replace function note_channel_order() returns trigger language plpgsql as $$
begin
  update channel_order set changed = true where promise_id = new.id and not changed;
  return null;
end $$;
create or replace trigger promise_changed after update on promise
  for each row when (new.channel_id is not null) execute function note_channel_order();

-- What of the payments at the channel a promise still holds: what was paid there less what went back there, and no more
-- than is held at all.
create or replace function held_at_channel(of_promise uuid) returns bigint language sql stable as $$
  select greatest(0, least(held, coalesce((select sum(amount) from promise_move
    where promise_id = of_promise and channel_id is not null), 0)))::bigint
  from promise where id = of_promise
$$;

-- Money of an order moves where it was ordered: what the customer has paid there, or what goes back to them there, below
-- zero. The channel owes the shop so much more or less.
create or replace function move_at_channel(of_promise uuid, amount bigint, payment text, at_time timestamptz) returns void
language plpgsql as $$
declare
  at_channel integer := (select channel_id from promise where id = of_promise);
begin
  if amount = 0 then
    return;
  end if;
  insert into promise_move (promise_id, kind, amount, channel_id, reference, at)
  values (of_promise, case when amount > 0 then 'deposit' else 'back' end, amount, at_channel, payment, at_time);
  insert into promise_event (promise_id, at, what, words, amount)
  values (of_promise, at_time, case when amount > 0 then 'Paid there' else 'Given back there' end, payment, amount);
  perform post_event(jsonb_build_object('kind', 'channel-payment', 'at', at_time, 'entries', jsonb_build_array(
    jsonb_build_object('account', 'channel-clearing', 'subject', 'channel:' || at_channel, 'amount', amount),
    jsonb_build_object('account', 'customer-deposits', 'subject', 'promise:' || of_promise, 'amount', -amount))));
  perform sum_promise(of_promise);
end $$;
