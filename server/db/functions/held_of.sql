-- What payments that are not finished hold of a gift card, certificate or store credit. A refund holds nothing of it.
create or replace function held_of(integer) returns bigint language sql stable as $$
  select coalesce(sum(tender.amount), 0)::bigint
  from payment_tender as tender
  join payment using (basket_id)
  join tender_state on tender_state.name = tender.state and tender_state.holds
  where tender.stored_value_id = $1 and not tender.refund and payment.state = 'open'
$$;
