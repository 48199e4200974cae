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
    select coalesce(customer.merged_into, customer.id) as customer, -sum(amount) as amount
    from points_move join customer on customer.id = customer_id
    where sale_id = for_sale and reason in ('reward', 'given back', 'taken again') and customer.forgotten_at is null
    group by 1 having sum(amount) < 0
  loop
    perform put_points_back(given.customer, given.amount, 'given back', for_sale, at_time, array['reward',
      'taken again']);
  end loop;
end $$;
