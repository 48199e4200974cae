-- Gives back the uses of offers, codes and points of a sale that is undone as if it had not been.
create or replace function give_back_offers(for_sale uuid, at_time timestamptz) returns void language plpgsql as $$
declare
  given record;
begin
  insert into offer_use (offer_id, sale_id, customer_id, code, uses, at)
  select offer_id, sale_id, customer_id, code, -sum(uses), at_time
  from offer_use where sale_id = for_sale
  group by offer_id, sale_id, customer_id, code
  having sum(uses) <> 0;

  for given in
    select customer_id, -sum(amount) as amount from points_move
    where sale_id = for_sale group by customer_id having sum(amount) <> 0
  loop
    update customer set points = points + given.amount where id = given.customer_id;
    insert into points_move (customer_id, amount, reason, sale_id, at)
    values (given.customer_id, given.amount, 'given back', for_sale, at_time);
  end loop;
end $$;
