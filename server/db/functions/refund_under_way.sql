-- Whether money is being given back for goods of a sale just now, in another basket than this one: a terminal may have
-- been asked already, so that nobody else may begin.
create or replace function refund_under_way(of_sale uuid, except_basket uuid) returns boolean language sql stable as $$
  select exists (
    select 1 from payment join payment_tender as tender using (basket_id)
    join tender_state on tender_state.name = tender.state and tender_state.holds
    cross join jsonb_array_elements(payment.basket->'lines') as line
    where payment.state = 'open' and basket_id is distinct from except_basket and tender.refund
      and (line.value->'comesBack'->'sale'->>'saleId')::uuid = of_sale)
$$;
