-- How many items nobody knows the cost of, though some lie there, were sold, or are owed.
create or replace function items_without_cost() returns integer language sql stable as $$
  select count(*)::integer from (
    select item_id from stock_layer where not known
    union select item_id from stock_debt where layer_id is null and unit_cost = 0) as one
$$;
