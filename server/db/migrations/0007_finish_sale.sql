-- Finishes a sale in one call: everything below happens, or nothing. Asking again for a sale that is finished
-- answers with that sale. The till's row is locked first, so that sales and closing a shift take turns.
create function finish_sale(sale_data jsonb) returns jsonb language plpgsql as $$
declare
  new_id uuid := (sale_data->>'id')::uuid;
  at_till integer := (sale_data->>'tillId')::integer;
  at_place integer := (sale_data->>'placeId')::integer;
  finished timestamptz := (sale_data->>'at')::timestamptz;
  in_shift bigint;
  receipt integer;
  done record;
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
                    regular, reductions, tax, total, note, exempt_reason, exempt_certificate)
  select new_id, at_till, in_shift, "staffId", receipt, "businessDate", finished, currency, "taxMode",
         regular, reductions, tax, total, note, "exemptReason", "exemptCertificate"
  from jsonb_to_record(sale_data) as sold ("staffId" integer, "businessDate" date, currency text, "taxMode" text,
                                           regular bigint, reductions bigint, tax bigint, total bigint,
                                           note text, "exemptReason" text, "exemptCertificate" text);

  insert into sale_line (sale_id, position, item_id, number, name, unit, quantity, unit_price, regular, net, records,
                         note, gift)
  select new_id, position, "itemId", number, name, unit, quantity, "unitPrice", regular, net, records, note, gift
  from jsonb_to_recordset(sale_data->'lines') as line (
    position smallint, "itemId" integer, number text, name text, unit text, quantity bigint, "unitPrice" bigint,
    regular bigint, net bigint, records jsonb, note text, gift boolean);

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
