-- Finishes a sale in one call: everything below happens, or nothing. Asking again for a sale that is finished
-- answers with that sale. The till's row is locked first, so that sales and closing a shift take turns.
-- Most sales are goods for money: what is only for other ones is asked after first, which takes no statement.
create or replace function finish_sale(sale_data jsonb) returns jsonb language plpgsql as $$
declare
  new_id uuid := (sale_data->>'id')::uuid;
  at_till integer := (sale_data->>'tillId')::integer;
  at_place integer := (sale_data->>'placeId')::integer;
  finished timestamptz := (sale_data->>'at')::timestamptz;
  lines jsonb := sale_data->'lines';
  tenders jsonb := sale_data->'tenders';
  comes_back boolean := jsonb_path_exists(lines, '$[*].comesBack.sale');
  on_account boolean := jsonb_path_exists(lines, '$[*].account')
    or jsonb_path_exists(tenders, '$[*].accountId ? (@ != null)');
  on_value boolean := jsonb_path_exists(tenders, '$[*].storedValueId ? (@ != null)')
    or jsonb_path_exists(tenders, '$[*].creditNumber');
  from_stock boolean := jsonb_path_exists(lines, '$[*].stocked ? (@ == true)');
  in_shift bigint;
  receipt integer;
  paying text;
  done record;
  credit integer;
  posted bigint;
  refunded uuid[];
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

  -- One row stands for the payment of a basket: whoever takes money for it meets here. The payments that were taken
  -- must be just those that the sale is finished with: none undone meanwhile, none more.
  insert into payment (basket_id, till_id, staff_id, due, state, began_at)
  values (new_id, at_till, (sale_data->>'staffId')::integer,
          (sale_data->>'total')::bigint + coalesce((sale_data->>'donation')::bigint, 0), 'finished', finished)
  on conflict (basket_id) do nothing;
  select state into paying from payment where basket_id = new_id for update;
  if (select count(*) from payment_tender join tender_state on tender_state.name = state and holds
      where basket_id = new_id)
     <> (select count(*) from jsonb_to_recordset(sale_data->'tenders') as paid ("paymentTenderId" uuid)
         join payment_tender on payment_tender.id = "paymentTenderId" and payment_tender.state = 'approved'
           and payment_tender.basket_id = new_id) then
    raise exception 'payments have changed' using errcode = 'MH007';
  end if;
  if paying = 'open' then
    update payment set state = 'finished' where basket_id = new_id;
  end if;

  insert into idempotency (key, route, request_hash, at)
  select (asked->>'key')::uuid, asked->>'route', asked->>'hash', finished
  from jsonb_extract_path(sale_data, 'asked') as asked where jsonb_typeof(asked) = 'object'
  on conflict do nothing;

  insert into sale (id, till_id, shift_id, staff_id, number, business_date, finished_at, hour, currency, tax_mode,
                    regular, reductions, tax, total, note, exempt_reason, exempt_certificate, customer_id,
                    donation, fund_id, cash_rounding, kind)
  select new_id, at_till, in_shift, "staffId", receipt, "businessDate", finished,
         extract(hour from finished at time zone (select timezone from shop)), currency, "taxMode",
         regular, reductions, tax, total, note, "exemptReason", "exemptCertificate",
         "customerId", coalesce(donation, 0), "fundId", coalesce("cashRounding", 0), coalesce(kind, 'sale')
  from jsonb_to_record(sale_data) as sold ("staffId" integer, "businessDate" date, currency text, "taxMode" text,
                                           regular bigint, reductions bigint, tax bigint, total bigint,
                                           note text, "exemptReason" text, "exemptCertificate" text,
                                           "customerId" integer, donation bigint, "fundId" integer,
                                           "cashRounding" bigint, kind text);

  -- Two returns from one sale take turns at its row, a return and its void too.
  if comes_back then
    perform 1 from sale where id in (
      select ("comesBack"->'sale'->>'saleId')::uuid
        from jsonb_to_recordset(sale_data->'lines') as line ("comesBack" jsonb))
    order by id for update;
  end if;

  if sale_data->'promises' <> '[]' then
    perform 1 from promise where id in (
      select id from jsonb_to_recordset(sale_data->'promises') as changed (id uuid)) order by id for update;
  end if;

  if on_account then
    perform 1 from account where id in (
      select ("accountId")::integer from jsonb_to_recordset(sale_data->'tenders') as paid ("accountId" integer)
      union select (account->>'accountId')::integer from jsonb_to_recordset(sale_data->'lines') as line (account jsonb))
    order by id for update;
  end if;

  if jsonb_path_exists(lines, '$[*].storedValue') then
    perform sell_values(sale_data);
  end if;

  insert into sale_line (sale_id, position, item_id, category_id, number, name, unit, quantity, unit_price, regular,
    net, records, note, gift, serial, bundle, age_checked, stored_value_id, taxes, return_reason, condition,
                         return_sale, return_position, promise_id, promise_part, promise_position, account_id)
  select new_id, position, "itemId", (select category_id from item where id = "itemId"), number, name, unit, quantity,
         "unitPrice", regular, net, records, note, gift,
         serial, bundle, coalesce("ageChecked", false),
         (select id from stored_value where stored_value.number = upper("storedValue"->>'number')),
         coalesce(taxes, '[]'), "comesBack"->>'reason', "comesBack"->>'condition',
         ("comesBack"->'sale'->>'saleId')::uuid, ("comesBack"->'sale'->>'position')::smallint,
         (promised->>'promiseId')::uuid, promised->>'part', (promised->>'position')::smallint,
         (account->>'accountId')::integer
  from jsonb_to_recordset(sale_data->'lines') as line (
    position smallint, "itemId" integer, number text, name text, unit text, quantity bigint, "unitPrice" bigint,
    regular bigint, net bigint, records jsonb, note text, gift boolean, serial text, bundle text,
    "ageChecked" boolean, "storedValue" jsonb, taxes jsonb, "comesBack" jsonb, promised jsonb,
    account jsonb);

  if comes_back then
    perform take_back(new_id, finished);
  end if;

  if jsonb_path_exists(lines, '$[*].serial') then
    perform move_serials(new_id, at_place);
  end if;

  perform use_offers(new_id, (sale_data->>'customerId')::integer, sale_data->'offerUses', finished);

  if (sale_data->>'pointsOff')::bigint > 0 then
    perform take_points((sale_data->>'customerId')::integer, (sale_data->>'pointsOff')::bigint, 'money off', new_id,
                        finished, false);
  end if;
  delete from points_claim where basket_id = new_id;

  insert into sale_tax (sale_id, position, tax_rate_id, name, rate, base, tax)
  select new_id, position, "rateId", name, rate, base, tax
  from jsonb_to_recordset(sale_data->'taxes') as amount (
    position smallint, "rateId" integer, name text, rate integer, base bigint, tax bigint);

  if sale_data->>'customerId' is not null then
    perform earn_points(new_id, finished);
  end if;

  if on_value then
    credit := credit_of(sale_data);
  end if;

  insert into tender (sale_id, position, kind, amount, handed, type_id, name, tip, reference, foreign_amount,
                      stored_value_id, payment_tender_id, refunds_sale, refunds_position, account_id)
  select new_id, position, kind, amount, handed, "typeId", name, coalesce(tip, 0), coalesce(reference, ''),
         "foreignAmount", coalesce("storedValueId", case when "creditNumber" is not null then credit end),
         "paymentTenderId", "refundsSale", "refundsPosition", "accountId"
  from jsonb_to_recordset(sale_data->'tenders') as paid (
    position smallint, kind text, amount bigint, handed bigint, "typeId" integer, name text, tip bigint,
    reference text, "foreignAmount" bigint, "storedValueId" integer, "paymentTenderId" uuid, "creditNumber" text,
    "refundsSale" uuid, "refundsPosition" smallint, "accountId" integer);

  -- No payment gives back more than it took.
  if jsonb_path_exists(tenders, '$[*].refundsSale ? (@ != null)') then
    refunded := (select array_agg(distinct refunds_sale) from tender
      where sale_id = new_id and refunds_sale is not null);
    if exists (select 1 from refunds_left(refunded) as rest where rest.amount < 0) then
      raise exception 'a payment would give back more than it took' using errcode = 'MH007';
    end if;
  end if;

  if on_value then
    perform pay_with_values(sale_data);
  end if;

  if on_account then
    perform move_accounts(new_id, sale_data->'lines');
  end if;

  if sale_data->'promises' <> '[]' then
    perform move_promises(sale_data);
  end if;

  posted := open_event(jsonb_build_object('kind', 'sale', 'at', sale_data->'at', 'staffId', sale_data->'staffId',
    'tillId', at_till, 'saleId', new_id, 'shiftId', in_shift));
  if from_stock then
    perform move_stock(sale_data, posted);
  end if;
  perform post_entries(posted, sale_data->'entries');
  if from_stock then
    perform post_costs(posted);
  end if;
  perform count_figures(array[new_id], 1);

  perform ask_for_papers(sale_data);

  delete from basket where id = new_id;

  return jsonb_build_object('number', receipt, 'tillId', at_till, 'total', sale_data->'total', 'again', false,
    'points', case when sale_data->>'customerId' is not null then points_of_sale(new_id) end);
end $$;
