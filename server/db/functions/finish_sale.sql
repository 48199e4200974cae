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
  done record;
  going record;
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

  insert into sale (id, till_id, shift_id, staff_id, number, business_date, finished_at, currency, tax_mode,
                    regular, reductions, tax, total, note, exempt_reason, exempt_certificate, customer_id)
  select new_id, at_till, in_shift, "staffId", receipt, "businessDate", finished, currency, "taxMode",
         regular, reductions, tax, total, note, "exemptReason", "exemptCertificate",
         "customerId"
  from jsonb_to_record(sale_data) as sold ("staffId" integer, "businessDate" date, currency text, "taxMode" text,
                                           regular bigint, reductions bigint, tax bigint, total bigint,
                                           note text, "exemptReason" text, "exemptCertificate" text,
                                           "customerId" integer);

  insert into sale_line (sale_id, position, item_id, number, name, unit, quantity, unit_price, regular, net, records,
                         note, gift, serial, bundle, age_checked)
  select new_id, position, "itemId", number, name, unit, quantity, "unitPrice", regular, net, records, note, gift,
         serial, bundle, coalesce("ageChecked", false)
  from jsonb_to_recordset(sale_data->'lines') as line (
    position smallint, "itemId" integer, number text, name text, unit text, quantity bigint, "unitPrice" bigint,
    regular bigint, net bigint, records jsonb, note text, gift boolean, serial text, bundle text,
    "ageChecked" boolean);

  -- A unit leaves once: the row of its serial number is locked, and must not have gone with another sale.
  for going in
    select item_id, serial as number, name, quantity from sale_line
    where sale_id = new_id and serial is not null order by item_id, serial
  loop
    if going.quantity > 0 then
      insert into serial as known (item_id, serial, place_id, sale_id)
      values (going.item_id, going.number, at_place, new_id)
      on conflict (item_id, serial) do update set sale_id = new_id where known.sale_id is null;
    else
      update serial set sale_id = null, place_id = at_place
      where item_id = going.item_id and serial = going.number and sale_id is not null;
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

  insert into tender (sale_id, position, kind, amount, handed)
  select new_id, position, kind, amount, handed
  from jsonb_to_recordset(sale_data->'tenders') as paid (position smallint, kind text, amount bigint, handed bigint);

  with sold as (
    select "itemId" as item_id, sum(quantity) as quantity
    from jsonb_to_recordset(sale_data->'lines') as line ("itemId" integer, quantity bigint, stocked boolean)
    where stocked
    group by "itemId"
    having sum(quantity) <> 0
    order by "itemId"
  ), moved as (
    insert into stock_move (item_id, place_id, quantity, reason, sale_id, at)
    select item_id, at_place, -quantity, 'sale', new_id, finished from sold
  )
  insert into stock_level as held (item_id, place_id, quantity)
  select item_id, at_place, -quantity from sold
  on conflict (item_id, place_id) do update set quantity = held.quantity + excluded.quantity;

  perform post_event(jsonb_build_object(
    'kind', 'sale', 'at', sale_data->'at', 'staffId', sale_data->'staffId', 'tillId', at_till, 'saleId', new_id,
    'shiftId', in_shift, 'entries', sale_data->'entries'));

  insert into print_job (till_id, kind, sale_id, open_drawer, asked_at)
  values (at_till, 'receipt', new_id, true, finished);

  if exists (select 1 from sale_line where sale_id = new_id and gift) then
    insert into print_job (till_id, kind, sale_id, asked_at) values (at_till, 'gift-receipt', new_id, finished);
  end if;

  delete from basket where id = new_id;

  return jsonb_build_object('number', receipt, 'tillId', at_till, 'total', sale_data->'total', 'again', false);
end $$;
