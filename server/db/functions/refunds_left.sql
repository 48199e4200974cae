-- What each payment of the sales took less what went back along it, and less what is going back along it just now, in
-- whichever basket; voided returns have given nothing back.
create or replace function refunds_left(of_sales uuid[]) returns table (sale_id uuid, "position" smallint,
  amount bigint)
language sql stable as $$
  select paid.sale_id, paid.position, (paid.amount - coalesce((
      select -sum(back.amount) from tender as back
      where back.refunds_sale = paid.sale_id and back.refunds_position = paid.position
        and not exists (select 1 from sale_void where sale_void.sale_id = back.sale_id and state = 'done')), 0)
    - coalesce((
      select sum(going.amount) from payment_tender as going
      join payment on payment.basket_id = going.basket_id
      join tender_state on tender_state.name = going.state and tender_state.holds
      where going.refunds_sale = paid.sale_id and going.refunds_position = paid.position
        and payment.state = 'open'), 0))::bigint
  from tender as paid
  where paid.sale_id = any (of_sales) and paid.amount > 0
$$;
