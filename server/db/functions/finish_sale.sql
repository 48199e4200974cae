-- Finishes a sale in one call: everything below happens, or nothing. Asking again for a sale that is finished
-- answers with that sale. The till's row is locked first, so that sales and closing a shift take turns.
create or replace function finish_sale(sale_data jsonb) returns jsonb language plpgsql as $$
declare
  new_id uuid := (sale_data->>'id')::uuid;
  at_till integer := (sale_data->>'tillId')::integer;
  at_place integer := (sale_data->>'placeId')::integer;
  finished timestamptz := (sale_data->>'at')::timestamptz;
  in_shift bigint;
  receipt integer;
  paying text;
  done record;
  going record;
  value record;
  rest bigint;
  credit integer;
begin
  select number, till_id, total into done from sale where id = new_id;
  if found then
    return jsonb_build_object('number', done.number, 'tillId', done.till_id, 'total', done.total, 'again', true);
  end if;

  update till set next_receipt = next_receipt + 1 where id = at_till returning next_receipt - 1 into receipt;

  -- Two requests for one sale meet at the till's row; the second one finds it finished here.
  select number, till_id, total into done from sale where id = new_id;
  if found then
    update till set next_receipt = next_receipt - 1 where id = at_till;
    return jsonb_build_object('number', done.number, 'tillId', done.till_id, 'total', done.total, 'again', true);
  end if;

  select id into in_shift from shift where till_id = at_till and state = 'open';
  if not found then
    raise exception 'no open drawer' using errcode = 'MH003';
  end if;

  -- One row stands for the payment of a basket: whoever takes money for it meets here. The payments that were taken must
  -- be just those that the sale is finished with: none undone meanwhile, none more.
  insert into payment (basket_id, till_id, staff_id, due, state, began_at)
  values (new_id, at_till, (sale_data->>'staffId')::integer,
          (sale_data->>'total')::bigint + coalesce((sale_data->>'donation')::bigint, 0), 'finished', finished)
  on conflict (basket_id) do nothing;
  select state into paying from payment where basket_id = new_id for update;
  if (select count(*) from payment_tender join tender_state on tender_state.name = state and holds
      where basket_id = new_id)
     <> (select count(*) from jsonb_to_recordset(sale_data->'tenders') as paid ("paymentTenderId" uuid)
         join payment_tender as held on held.id = "paymentTenderId" and held.state = 'approved'
           and held.basket_id = new_id) then
    raise exception 'payments have changed' using errcode = 'MH007';
  end if;
  if paying = 'open' then
    update payment set state = 'finished' where basket_id = new_id;
  end if;

  insert into idempotency (key, route, request_hash, at)
  select (asked->>'key')::uuid, asked->>'route', asked->>'hash', finished
  from jsonb_extract_path(sale_data, 'asked') as asked where jsonb_typeof(asked) = 'object'
  on conflict do nothing;

  insert into sale (id, till_id, shift_id, staff_id, number, business_date, finished_at, currency, tax_mode,
                    regular, reductions, tax, total, note, exempt_reason, exempt_certificate, customer_id,
                    donation, fund_id, cash_rounding, kind)
  select new_id, at_till, in_shift, "staffId", receipt, "businessDate", finished, currency, "taxMode",
         regular, reductions, tax, total, note, "exemptReason", "exemptCertificate",
         "customerId", coalesce(donation, 0), "fundId", coalesce("cashRounding", 0), coalesce(kind, 'sale')
  from jsonb_to_record(sale_data) as sold ("staffId" integer, "businessDate" date, currency text, "taxMode" text,
                                           regular bigint, reductions bigint, tax bigint, total bigint,
                                           note text, "exemptReason" text, "exemptCertificate" text,
                                           "customerId" integer, donation bigint, "fundId" integer,
                                           "cashRounding" bigint, kind text);

  -- Two returns from one sale take turns at its row, a return and its void too.
  perform 1 from sale where id in (
    select ("comesBack"->'sale'->>'saleId')::uuid from jsonb_to_recordset(sale_data->'lines') as line ("comesBack" jsonb))
  order by id for update;

  -- A gift card is active from the moment in which it is paid for; a number can be sold once.
  for going in
    select upper("storedValue"->>'number') as number, "storedValue"->>'kind' as kind,
           coalesce(("storedValue"->>'topUp')::boolean, false) as top_up, coalesce("storedValue"->>'mail', '') as mail,
           net as amount
    from jsonb_to_recordset(sale_data->'lines') as line ("storedValue" jsonb, net bigint)
    where "storedValue" is not null order by 1
  loop
    select * into value from stored_value where number = going.number for update;
    if found <> going.top_up or (found and value.state <> 'active') then
      raise exception '%', going.number using errcode = 'MH006';
    end if;
    if not found then
      insert into stored_value (number, kind, mail, customer_id, expires_on, issued_at, used_at)
      select going.number, going.kind, going.mail, (sale_data->>'customerId')::integer,
             (sale_data->>'businessDate')::date + make_interval(months => gift_card_months), finished, finished
      from shop
      on conflict (number) do nothing
      returning * into value;
      if not found then
        raise exception '%', going.number using errcode = 'MH006';
      end if;
    end if;
    update stored_value set balance = balance + going.amount, used_at = finished where id = value.id;
    insert into stored_value_move (stored_value_id, kind, amount, sale_id, staff_id, at)
    values (value.id, case when going.top_up then 'topped up' else 'sold' end, going.amount, new_id,
            (sale_data->>'staffId')::integer, finished);
    if going.mail <> '' then
      insert into outbox (kind, recipient, subject, stored_value_id, asked_at)
      values ('mail', going.mail, 'Your gift card', value.id, finished);
    end if;
    if not going.top_up then
      insert into print_job (till_id, kind, stored_value_id, asked_at) values (at_till, 'gift-card', value.id, finished);
    end if;
  end loop;

  insert into sale_line (sale_id, position, item_id, number, name, unit, quantity, unit_price, regular, net, records,
                         note, gift, serial, bundle, age_checked, stored_value_id, taxes, return_reason, condition,
                         return_sale, return_position)
  select new_id, position, "itemId", number, name, unit, quantity, "unitPrice", regular, net, records, note, gift,
         serial, bundle, coalesce("ageChecked", false),
         (select id from stored_value where stored_value.number = upper("storedValue"->>'number')),
         coalesce(taxes, '[]'), "comesBack"->>'reason', "comesBack"->>'condition',
         ("comesBack"->'sale'->>'saleId')::uuid, ("comesBack"->'sale'->>'position')::smallint
  from jsonb_to_recordset(sale_data->'lines') as line (
    position smallint, "itemId" integer, number text, name text, unit text, quantity bigint, "unitPrice" bigint,
    regular bigint, net bigint, records jsonb, note text, gift boolean, serial text, bundle text,
    "ageChecked" boolean, "storedValue" jsonb, taxes jsonb, "comesBack" jsonb);

  perform take_back(new_id, finished);

  -- A unit leaves once: the row of its serial number is locked, and must not have gone with another sale.
  for going in
    select item_id, serial as number, name, quantity, return_sale from sale_line
    where sale_id = new_id and serial is not null order by item_id, serial
  loop
    if going.quantity > 0 then
      insert into serial as known (item_id, serial, place_id, sale_id)
      values (going.item_id, going.number, at_place, new_id)
      on conflict (item_id, serial) do update set sale_id = new_id where known.sale_id is null;
    else
      update serial set sale_id = null, place_id = at_place
      where item_id = going.item_id and serial = going.number
        and case when going.return_sale is null then sale_id is not null else sale_id = going.return_sale end;
    end if;
    if not found then
      raise exception '% %', going.name, going.number using errcode = 'MH004';
    end if;
  end loop;

  perform use_offers(new_id, (sale_data->>'customerId')::integer, sale_data->'offerUses', finished);

  insert into sale_tax (sale_id, position, tax_rate_id, name, rate, base, tax)
  select new_id, position, "rateId", name, rate, base, tax
  from jsonb_to_recordset(sale_data->'taxes') as amount (
    position smallint, "rateId" integer, name text, rate integer, base bigint, tax bigint);

  -- Store credit goes to the customer's own, or begins it.
  for going in
    select "creditNumber" as number, (sale_data->>'customerId')::integer as customer
    from jsonb_to_recordset(sale_data->'tenders') as paid ("creditNumber" text) where "creditNumber" is not null
  loop
    perform 1 from customer where id = going.customer for update;
    select id into credit from stored_value
    where customer_id = going.customer and kind = 'store-credit' and state = 'active' order by id limit 1;
    if not found then
      insert into stored_value (number, kind, customer_id, issued_at, used_at)
      values (going.number, 'store-credit', going.customer, finished, finished) returning id into credit;
    end if;
  end loop;

  insert into tender (sale_id, position, kind, amount, handed, type_id, name, tip, reference, foreign_amount,
                      stored_value_id, payment_tender_id, refunds_sale, refunds_position)
  select new_id, position, kind, amount, handed, "typeId", name, coalesce(tip, 0), coalesce(reference, ''),
         "foreignAmount", coalesce("storedValueId", case when "creditNumber" is not null then credit end),
         "paymentTenderId", "refundsSale", "refundsPosition"
  from jsonb_to_recordset(sale_data->'tenders') as paid (
    position smallint, kind text, amount bigint, handed bigint, "typeId" integer, name text, tip bigint,
    reference text, "foreignAmount" bigint, "storedValueId" integer, "paymentTenderId" uuid, "creditNumber" text,
    "refundsSale" uuid, "refundsPosition" smallint);

  -- No payment gives back more than it took.
  perform 1 from refunds_left((select array_agg(distinct refunds_sale) from tender where sale_id = new_id)) as rest
  where rest.amount < 0;
  if found then
    raise exception 'a payment would give back more than it took' using errcode = 'MH007';
  end if;

  for going in
    select stored_value_id as id, sum(amount) as amount from tender
    where sale_id = new_id and stored_value_id is not null group by 1 order by 1
  loop
    if going.amount < 0 then
      update stored_value set balance = balance - going.amount, used_at = finished,
        state = case state when 'closed' then 'active' else state end
      where id = going.id and state <> 'frozen' and moved_to is null;
      if not found then
        raise exception 'a card takes no money back' using errcode = 'MH007';
      end if;
      insert into stored_value_move (stored_value_id, kind, amount, sale_id, staff_id, at)
      values (going.id, 'refunded', -going.amount, new_id, (sale_data->>'staffId')::integer, finished);
      continue;
    end if;
    -- Never below zero: the check on the table refuses it.
    update stored_value set balance = balance - going.amount, used_at = finished where id = going.id
    returning * into value;
    insert into stored_value_move (stored_value_id, kind, amount, sale_id, staff_id, at)
    values (going.id, 'redeemed', -going.amount, new_id, (sale_data->>'staffId')::integer, finished);
    if value.single_use and value.balance > 0 then
      rest := value.balance;
      insert into stored_value_move (stored_value_id, kind, amount, sale_id, staff_id, at)
      values (going.id, 'rest lapsed', -rest, new_id, (sale_data->>'staffId')::integer, finished);
      perform post_event(jsonb_build_object('kind', 'stored-value', 'at', sale_data->'at',
        'staffId', sale_data->'staffId', 'tillId', at_till, 'entries', jsonb_build_array(
          jsonb_build_object('account', 'stored-value', 'subject', value.kind, 'amount', rest),
          jsonb_build_object('account', 'lapsed-value', 'subject', '', 'amount', -rest))));
    end if;
    if value.single_use or (value.kind = 'certificate' and value.balance = 0) then
      update stored_value set balance = 0, state = 'closed' where id = going.id;
    end if;
  end loop;

  -- What comes back damaged or goes to the supplier comes in and leaves again, so that the history says so.
  with line as (
    select "itemId" as item_id, quantity, "comesBack"->>'condition' as condition
    from jsonb_to_recordset(sale_data->'lines') as line ("itemId" integer, quantity bigint, stocked boolean, "comesBack" jsonb)
    where stocked
  ), part as (
    select item_id, -quantity as quantity, case when quantity > 0 then 'sale' else 'return' end as reason from line
    union all
    select item_id, quantity, condition from line where quantity < 0 and condition in ('damaged', 'to-supplier')
  ), moved as (
    insert into stock_move (item_id, place_id, quantity, reason, sale_id, at)
    select item_id, at_place, sum(quantity), reason, new_id, finished from part
    group by item_id, reason order by item_id, reason
  )
  insert into stock_level as held (item_id, place_id, quantity)
  select item_id, at_place, sum(quantity) from part group by item_id order by item_id
  on conflict (item_id, place_id) do update set quantity = held.quantity + excluded.quantity;

  perform post_event(jsonb_build_object(
    'kind', 'sale', 'at', sale_data->'at', 'staffId', sale_data->'staffId', 'tillId', at_till, 'saleId', new_id,
    'shiftId', in_shift, 'entries', sale_data->'entries'));

  if coalesce(sale_data->>'receiptBy', 'print') = 'print' then
    insert into print_job (till_id, kind, sale_id, open_drawer, asked_at)
    values (at_till, 'receipt', new_id, coalesce((sale_data->>'opensDrawer')::boolean, true), finished);
  else
    if (sale_data->>'opensDrawer')::boolean then
      insert into print_job (till_id, kind, sale_id, open_drawer, asked_at)
      values (at_till, 'drawer-only', new_id, true, finished);
    end if;
    if sale_data->>'receiptBy' in ('mail', 'text') and sale_data->>'receiptTo' <> '' then
      insert into outbox (kind, recipient, subject, sale_id, asked_at)
      values (sale_data->>'receiptBy', sale_data->>'receiptTo', 'Your receipt', new_id, finished);
    end if;
  end if;

  if exists (select 1 from sale_line where sale_id = new_id and gift) then
    insert into print_job (till_id, kind, sale_id, asked_at) values (at_till, 'gift-receipt', new_id, finished);
  end if;

  delete from basket where id = new_id;

  return jsonb_build_object('number', receipt, 'tillId', at_till, 'total', sale_data->'total', 'again', false);
end $$;
