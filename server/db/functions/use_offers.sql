-- Counts the uses of offers in a sale: [{offerId, uses, code, points}]. Rows of limited offers are locked first, so
-- that two tills that use the last one take turns; the second is refused.
create or replace function use_offers(for_sale uuid, buyer integer, used jsonb, at_time timestamptz)
returns void language plpgsql as $$
declare
  limited record;
  spent bigint;
begin
  if used is null or jsonb_array_length(used) = 0 then
    return;
  end if;

  for limited in
    select offer.id, offer.name, offer.in_total, offer.per_customer
    from offer
    where (in_total is not null or per_customer is not null or needs <> 'nothing')
      and id in (select (one->>'offerId')::integer from jsonb_array_elements(used) as one)
    order by id
    for update
  loop
    perform 1 from offer_uses_left(limited.id, buyer, for_sale, at_time) as rest
    where least(rest.in_all, rest.of_customer) <
      (select sum((one->>'uses')::integer) from jsonb_array_elements(used) as one
       where (one->>'offerId')::integer = limited.id);
    if found then
      raise exception '%', limited.name using errcode = 'MH005';
    end if;
  end loop;

  -- A single code opens once.
  perform 1
  from jsonb_array_elements(used) as one
  join offer_code on offer_code.code = one->>'code' and single
  where coalesce((select sum(uses) from offer_use where offer_use.code = one->>'code'), 0)
        + (one->>'uses')::integer > 1;
  if found then
    raise exception '%', used->0->>'code' using errcode = 'MH005';
  end if;

  insert into offer_use (offer_id, sale_id, customer_id, code, uses, at)
  select "offerId", for_sale, buyer, nullif(code, ''), uses, at_time
  from jsonb_to_recordset(used) as one ("offerId" integer, code text, uses integer);

  select coalesce(sum(points), 0) into spent from jsonb_to_recordset(used) as one (points bigint);
  if spent > 0 then
    perform take_points(buyer, spent, 'reward', for_sale, at_time, false);
  end if;

  delete from offer_claim where basket_id = for_sale;
end $$;
