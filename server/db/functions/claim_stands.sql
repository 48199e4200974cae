-- Whether a basket still holds the uses of offers that it claimed: for a quarter of an hour, and for as long as money
-- is held for it.
create or replace function claim_stands(of_basket uuid, claimed_at timestamptz, at_time timestamptz) returns boolean
language sql stable as $$
  select claimed_at > at_time - interval '15 minutes' or exists (
    select 1 from payment join payment_tender as tender using (basket_id)
    join tender_state on tender_state.name = tender.state and tender_state.holds
    where payment.basket_id = of_basket and payment.state = 'open')
$$;
