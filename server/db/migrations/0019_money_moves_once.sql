-- Money moves once: what no order of steps may reach is refused here, too.

-- States of a payment and what may follow; the rows are laid from core at every start.
create table tender_state (
  name text primary key,
  -- A device may still answer.
  open boolean not null,
  -- The money is here, or may be.
  holds boolean not null
);
create table tender_step (
  from_state text not null references tender_state,
  event text not null,
  to_state text not null references tender_state,
  primary key (from_state, event)
);

-- One row stands for a basket's payment, a sale that was finished at once included: then there is no basket in it.
alter table payment alter column basket drop not null;
-- What the basket came to when its payment began: prices, offers, taxes and rates of that moment stand until it is over.
alter table payment add column figures jsonb;
alter table payment add constraint payment_open_basket check (state <> 'open' or basket is not null);

-- A payment that came too late and that its terminal does not take back is refunded: this says which one it sends back.
alter table payment_tender add column sends_back uuid references payment_tender;
create unique index payment_tender_sends_back on payment_tender (sends_back)
  where state in ('stored', 'asked', 'unanswered', 'approved');

-- The functions stand in files of their own, which are laid when they change.
create function guard_payment() returns trigger language plpgsql as $$ begin return new; end $$;
create trigger payment_guard before insert or update on payment for each row execute function guard_payment();
create function guard_payment_tender() returns trigger language plpgsql as $$ begin return new; end $$;
create trigger payment_tender_guard before insert or update on payment_tender
  for each row execute function guard_payment_tender();
create function guard_after_sale() returns trigger language plpgsql as $$ begin return new; end $$;
create trigger sale_void_guard before insert on sale_void for each row execute function guard_after_sale();
create trigger tender_correction_guard before insert on tender_correction for each row execute function guard_after_sale();

-- What is held of a gift card, certificate or store credit by payments that are not finished: one definition for all.
create function held_of(integer) returns bigint language sql stable as $$ select 0::bigint $$;

-- Wrong tries at PINs and numbers, of tills and of addresses. How long to wait follows from how many they are.
create table wrong_try (
  key text primary key check (length(key) <= 120),
  wrong integer not null check (wrong >= 0)
);
insert into wrong_try (key, wrong) select 'pin till ' || id, wrong_pins from till where wrong_pins > 0;
alter table till drop column wrong_pins, drop column pin_blocked_until;

-- An approval names what it allows, belongs to the session that asked, and is used once.
alter table session add column id bigint generated always as identity unique;
alter table countersign add column covers jsonb not null default '[]', add column session_id bigint;
create table countersign_use (
  countersign_id uuid primary key references countersign,
  at timestamptz not null,
  -- The basket, sale or cash move that it was used for.
  used_for uuid not null
);
create trigger countersign_use_is_history before update or delete or truncate on countersign_use
  for each statement execute function refuse_change();
-- Approvals of before allow what their sales did; what still waits is asked for anew.
insert into countersign_use (countersign_id, at, used_for)
select id, at, basket_id from countersign where exists (select 1 from sale where sale.id = basket_id);
