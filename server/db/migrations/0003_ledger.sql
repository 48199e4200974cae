-- Balanced double entries behind every event.

create table ledger_event (
  id bigint generated always as identity primary key,
  kind text not null check (kind in ('shift-opened', 'sale', 'shift-closed')),
  at timestamptz not null,
  staff_id integer not null references staff,
  till_id integer references till,
  sale_id uuid,
  shift_id bigint
);

create table ledger_entry (
  event_id bigint not null references ledger_event,
  position smallint not null,
  account text not null,
  subject text not null default '',
  amount bigint not null check (amount <> 0),
  primary key (event_id, position)
);
create index ledger_entry_account on ledger_entry (account, subject);

-- Maintained from ledger_entry in the same transaction, for accounts whose balance is needed at the counter.
create table account_balance (
  account text not null,
  subject text not null,
  balance bigint not null,
  primary key (account, subject)
);

create function check_event_balance() returns trigger language plpgsql as $$
declare
  off bigint;
begin
  select sum(amount) into off from ledger_entry where event_id = new.event_id;
  if off <> 0 then
    raise exception 'ledger event % is % off balance', new.event_id, off using errcode = 'MH002';
  end if;
  return null;
end $$;

create constraint trigger ledger_entry_balanced after insert on ledger_entry
  deferrable initially deferred for each row execute function check_event_balance();

create trigger ledger_event_is_history before update or delete or truncate on ledger_event
  for each statement execute function refuse_change();
create trigger ledger_entry_is_history before update or delete or truncate on ledger_entry
  for each statement execute function refuse_change();
