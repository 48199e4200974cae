-- Accounts whose balance is kept beside their entries, because it is needed at the counter.
create or replace function keeps_balance(account text) returns boolean language sql immutable as $$
  select account in ('cash', 'safe', 'bank-in-transit', 'receivable', 'store-credit', 'foreign-cash', 'card-clearing',
    'stored-value', 'customer-deposits', 'channel-clearing', 'partner-clearing')
$$;
