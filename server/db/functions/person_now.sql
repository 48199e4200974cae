-- The record that stands for a person now; none once they are forgotten.
create or replace function person_now(of_customer integer) returns integer language sql stable as $$
  select kept.id from customer join customer as kept on kept.id = coalesce(customer.merged_into, customer.id)
  where customer.id = of_customer and not kept.gone
$$;
