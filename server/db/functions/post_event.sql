-- Opens an event in the books: {kind, at, staffId, tillId, saleId, shiftId, cashMoveId, correctionId}. Its entries
-- follow.
create or replace function open_event(event jsonb) returns bigint language plpgsql as $$
declare
  new_id bigint;
begin
  insert into ledger_event (kind, at, staff_id, till_id, sale_id, shift_id, cash_move_id, correction_id)
  values (
    event->>'kind', (event->>'at')::timestamptz, (event->>'staffId')::integer, (event->>'tillId')::integer,
    (event->>'saleId')::uuid, (event->>'shiftId')::bigint, (event->>'cashMoveId')::uuid,
    (event->>'correctionId')::uuid
  )
  returning id into new_id;
  return new_id;
end $$;

-- Posts the first entries of an event: [{account, subject, amount}].
create or replace function post_entries(of_event bigint, entries jsonb) returns void language plpgsql as $$
begin
  insert into ledger_entry (event_id, position, account, subject, amount)
  select of_event, position, entry->>'account', entry->>'subject', (entry->>'amount')::bigint
  from jsonb_array_elements(entries) with ordinality as listed (entry, position);

  insert into account_balance (account, subject, balance)
  select account, subject, sum(amount)
  from ledger_entry
  where event_id = of_event and keeps_balance(account)
  group by account, subject
  order by account, subject
  on conflict (account, subject) do update set balance = account_balance.balance + excluded.balance;
end $$;

-- Posts an amount that has moved between the two accounts of a kind of transfer.
create or replace function post_transfer(of_kind text, at_time timestamptz, amount bigint, of_debit text, of_credit text)
returns void language plpgsql as $$
declare
  accounts ledger_transfer;
begin
  select * into strict accounts from ledger_transfer where kind = of_kind;
  perform post_event(jsonb_build_object('kind', of_kind, 'at', at_time, 'entries', jsonb_build_array(
    jsonb_build_object('account', accounts.debit, 'subject', of_debit, 'amount', amount),
    jsonb_build_object('account', accounts.credit, 'subject', of_credit, 'amount', -amount))));
end $$;

-- Posts one event with its entries.
create or replace function post_event(event jsonb) returns bigint language plpgsql as $$
declare
  event_number bigint := open_event(event);
begin
  perform post_entries(event_number, event->'entries');
  return event_number;
end $$;
