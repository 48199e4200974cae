-- The lowest price that each item had in the days before that the shop has set: what it is worth when it comes back
-- without a receipt.
create or replace function lowest_prices(items integer[], at timestamptz)
returns table (item_id integer, price bigint) language sql stable as $$
  select past.item_id, min(past.price)
  from (
    select item_price.item_id, item_price.price, item_price.changed_at,
           lead(item_price.changed_at) over (partition by item_price.item_id order by item_price.changed_at) as until
    from item_price where item_price.item_id = any (items)
  ) as past
  where past.price is not null and (past.until is null
    or past.until > at - make_interval(days => (select no_receipt_days from shop)))
  group by past.item_id
$$;
