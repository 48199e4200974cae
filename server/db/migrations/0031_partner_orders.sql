-- Orders that partners pass to the shop: they become orders of its own, which the partner owes.

alter table partner
  -- As whom it orders here.
  add column customer_id integer references customer;

alter table promise add column partner_id integer references partner;
do $$
declare
  old record;
begin
  for old in
    select conrelid::regclass as of_table, conname from pg_constraint
    where contype = 'c' and (pg_get_constraintdef(oid) like '%num_nonnulls(till_id, channel_id)%'
      or pg_get_constraintdef(oid) like '%num_nonnulls(sale_id, channel_id)%'
      or (conrelid = 'relay_message'::regclass and pg_get_constraintdef(oid) like '%kind%')
      or (conrelid = 'partner_settlement'::regclass and pg_get_constraintdef(oid) like '%amount%'))
  loop
    execute format('alter table %s drop constraint %I', old.of_table, old.conname);
  end loop;
end $$;
-- Made at a till, or placed elsewhere.
alter table promise add check (num_nonnulls(till_id, channel_id, partner_id) = 1);

create table partner_order (
  promise_id uuid primary key references promise,
  partner_id integer not null references partner,
  -- What the hub calls it: it comes in once.
  reference text not null unique check (length(reference) between 1 and 60),
  -- What the partner calls it.
  number text not null check (length(number) between 1 and 30),
  day date not null,
  goods text not null check (length(goods) between 1 and 500),
  card text not null default '' check (length(card) <= 300),
  accepted_at timestamptz
);
create index partner_order_number on partner_order (upper(number));

-- What is said of them goes the same ways as what is said of orders that were passed on.
alter table relay_message
  alter column try_id drop not null,
  add column order_id uuid references partner_order,
  add check (num_nonnulls(try_id, order_id) = 1),
  add check (kind in ('order', 'accepted', 'refused', 'question', 'note', 'delivered', 'reply', 'withdrawn')),
  -- Nobody here passes an order on as a message, or asks what only partners ask.
  add check (hub_id is not null or kind not in ('order', 'question'));
create index relay_message_of_order on relay_message (order_id, id) where order_id is not null;

-- Money of a promise moves with a sale, or where it was ordered: with its channel or its partner.
alter table promise_move
  add column partner_id integer references partner,
  add check (num_nonnulls(sale_id, channel_id, partner_id) = 1 and (sale_id is not null or kind in ('deposit', 'back')));
create index promise_move_partner on promise_move (partner_id, at) where partner_id is not null;

-- Of a month, what is owed to a partner less what it owes: below zero the partner has paid.
create table partner_settlement_move (
  move_id bigint primary key references promise_move,
  settlement_id uuid not null references partner_settlement
);
create trigger partner_settlement_move_is_history before update or delete or truncate on partner_settlement_move
  for each statement execute function refuse_change();

alter table promise
  -- Why it was promised without tax, and the certificate that was shown.
  add column exempt_reason text check (length(exempt_reason) between 1 and 120),
  add column exempt_certificate text not null default '' check (length(exempt_certificate) <= 60),
  -- How far it is in the shop's own words.
  add column stage text not null default '' check (length(stage) <= 30);

insert into role_right (role, "right")
select role, 'fee.waive' from unnest(array['supervisor', 'manager']) as role where exists (select 1 from shop)
on conflict do nothing;

drop function if exists held_at_channel(uuid), move_at_channel(uuid, bigint, text, timestamptz);
