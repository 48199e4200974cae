-- House accounts. An account's row is locked first; then its items move.

-- What payments that are not finished hold of an account. A refund holds nothing of it.
create or replace function held_on_account(integer) returns bigint language sql stable as $$
  select coalesce(sum(tender.amount), 0)::bigint
  from payment_tender as tender
  join payment using (basket_id)
  join tender_state on tender_state.name = tender.state and tender_state.holds
  where tender.account_id = $1 and not tender.refund and payment.state = 'open'
$$;

-- Lets one item pay a part of another; below zero takes that back.
create or replace function match_items(charge bigint, payment bigint, part bigint, on_day date, at_time timestamptz)
returns void language plpgsql as $$
begin
  update account_item set remaining = remaining - part where id = charge;
  update account_item set remaining = remaining + part where id = payment;
  insert into account_match (item_id, by_id, amount, day, at) values (charge, payment, part, on_day, at_time);
end $$;

-- Lets what is over on an account pay what is open on it: what was picked first, then the oldest.
create or replace function settle_account(of_account integer, on_day date, at_time timestamptz,
                                          picked bigint[] default '{}', payer bigint default null)
returns void language plpgsql as $$
declare
  credit record;
  open record;
begin
  loop
    select id, remaining into credit from account_item
    where account_id = of_account and remaining < 0 and (payer is null or id = payer) order by day, id limit 1;
    exit when not found;
    select id, remaining into open from account_item where account_id = of_account and remaining > 0
    order by id = any (picked) desc, due_on, id limit 1;
    exit when not found;
    perform match_items(open.id, credit.id, least(open.remaining, -credit.remaining), on_day, at_time);
  end loop;
end $$;

-- Writes an item onto an account and settles what can be settled. Answers with its number.
-- item: {accountId, kind, amount, day, saleId, buyerId, reference, words, at, staffId, picked: []}
create or replace function put_on_account(item jsonb) returns bigint language plpgsql as $$
declare
  held record;
  worth bigint := (item->>'amount')::bigint;
  on_day date := (item->>'day')::date;
  at_time timestamptz := (item->>'at')::timestamptz;
  picked bigint[] := coalesce((select array_agg(value::bigint) from jsonb_array_elements_text(item->'picked')), '{}');
  written bigint;
begin
  update account set balance = balance + worth where id = (item->>'accountId')::integer
  returning id, days_to_pay into held;
  if not found then
    raise exception 'there is no such account';
  end if;
  insert into account_item (account_id, kind, amount, remaining, day, due_on, sale_id, buyer_id, reference, words,
    at, staff_id)
  values (held.id, item->>'kind', worth, worth, on_day,
          case when worth > 0 and item->>'kind' in ('charge', 'opening') then on_day + held.days_to_pay else on_day end,
          (item->>'saleId')::uuid, (item->>'buyerId')::integer, coalesce(item->>'reference', ''),
          coalesce(item->>'words', ''), at_time, (item->>'staffId')::integer)
  returning id into written;
  if worth < 0 then
    perform settle_account(held.id, on_day, at_time, picked, written);
  end if;
  perform settle_account(held.id, on_day, at_time, picked);
  return written;
end $$;

-- What a finished sale does to accounts: what was charged or given back onto them, and money that was paid onto them.
create or replace function move_accounts(of_sale uuid, lines jsonb) returns void language plpgsql as $$
declare
  sold record;
  going record;
begin
  select sale.id, business_date as day, finished_at as at, staff_id as staff, customer_id as buyer into sold
  from sale where id = of_sale;
  for going in
    select tender.account_id as account, tender.refunds_sale, sum(amount)::bigint as amount,
           coalesce(string_agg(distinct nullif(reference, ''), ', '), '') as reference
    from tender where sale_id = of_sale and tender.account_id is not null group by 1, 2 having sum(amount) <> 0
      order by 1, 2
  loop
    -- What comes back takes off what was charged for it.
    perform put_on_account(jsonb_build_object('accountId', going.account,
      'kind', case when going.amount > 0 then 'charge' else 'refund' end, 'amount', going.amount, 'day', sold.day,
      'saleId', of_sale, 'buyerId', sold.buyer, 'reference', left(going.reference, 120), 'at', sold.at, 'staffId',
      sold.staff, 'picked', coalesce((select jsonb_agg(id) from account_item
        where sale_id = going.refunds_sale and kind = 'charge'), '[]')));
  end loop;
  for going in
    select line.account_id as account, line.net as amount, asked.account->'items' as picked
    from sale_line as line join jsonb_to_recordset(lines) as asked (position smallint, account jsonb) using (position)
    where sale_id = of_sale and line.account_id is not null and line.net <> 0 order by line.position
  loop
    perform put_on_account(jsonb_build_object('accountId', going.account,
      'kind', case when going.amount > 0 then 'payment' else 'paid out' end, 'amount', -going.amount, 'day', sold.day,
      'saleId', of_sale, 'buyerId', sold.buyer, 'at', sold.at, 'staffId', sold.staff,
      'picked', coalesce(going.picked, '[]')));
  end loop;
end $$;

-- Takes an item off an account again by a counter-item: whatever it paid, or was paid by, is open again before.
create or replace function take_off_account(of_item bigint, on_day date, at_time timestamptz, by_staff integer)
returns void language plpgsql as $$
declare
  gone record;
  past record;
  back bigint;
begin
  select item.* into gone from account_item as item where id = of_item;
  for past in
    select item_id, by_id, sum(amount)::bigint as part from account_match
    where item_id = of_item or by_id = of_item group by 1, 2 having sum(amount) <> 0 order by 1, 2
  loop
    perform match_items(past.item_id, past.by_id, -past.part, on_day, at_time);
  end loop;
  update account set balance = balance - gone.amount where id = gone.account_id;
  insert into account_item (account_id, kind, amount, remaining, day, due_on, sale_id, buyer_id, reference, at,
    staff_id)
  values (gone.account_id, 'void', -gone.amount, -gone.amount, on_day, on_day, gone.sale_id, gone.buyer_id,
    gone.reference, at_time, by_staff)
  returning id into back;
  if gone.amount > 0 then
    perform match_items(of_item, back, gone.amount, on_day, at_time);
  else
    perform match_items(back, of_item, -gone.amount, on_day, at_time);
  end if;
  perform settle_account(gone.account_id, on_day, at_time);
end $$;
