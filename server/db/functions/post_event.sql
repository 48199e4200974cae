-- Posts one event: {kind, at, staffId, tillId, saleId, shiftId, cashMoveId, correctionId, entries: [{account, subject, amount}]}.
create or replace function post_event(event jsonb) returns bigint language plpgsql as $$
declare
  event_number bigint;
begin
  insert into ledger_event (kind, at, staff_id, till_id, sale_id, shift_id, cash_move_id, correction_id)
  values (
    event->>'kind', (event->>'at')::timestamptz, (event->>'staffId')::integer, (event->>'tillId')::integer,
    (event->>'saleId')::uuid, (event->>'shiftId')::bigint, (event->>'cashMoveId')::uuid,
    (event->>'correctionId')::uuid
  )
  returning id into event_number;

  insert into ledger_entry (event_id, position, account, subject, amount)
  select event_number, position, entry->>'account', entry->>'subject', (entry->>'amount')::bigint
  from jsonb_array_elements(event->'entries') with ordinality as listed (entry, position);

  insert into account_balance as held (account, subject, balance)
  select account, subject, sum(amount)
  from ledger_entry
  where event_id = event_number and keeps_balance(account)
  group by account, subject
  order by account, subject
  on conflict (account, subject) do update set balance = held.balance + excluded.balance;

  return event_number;
end $$;
