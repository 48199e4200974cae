-- How often an offer may still apply, in all and for a customer; baskets that are being paid hold theirs for a quarter
-- of an hour. Without a limit, more than anybody uses.
create or replace function offer_uses_left(of_offer integer, buyer integer, for_basket uuid, at_time timestamptz)
returns table (in_all bigint, of_customer bigint) language sql stable as $$
  select
    coalesce(in_total, 1000000000)
      - coalesce((select sum(uses) from offer_use where offer_id = of_offer), 0)
      - coalesce((select sum(uses) from offer_claim where offer_id = of_offer and basket_id <> for_basket
                  and claim_stands(basket_id, at, at_time)), 0),
    coalesce(per_customer, 1000000000)
      - coalesce((select sum(uses) from offer_use where offer_id = of_offer and customer_id = any (one_person(buyer))), 0)
  from offer where id = of_offer
$$;
