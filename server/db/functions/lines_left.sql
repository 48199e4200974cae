-- What is left of the goods on each line of a sale: quantity and what was paid for it, less what came back.
create or replace function lines_left(of_sale uuid) returns table ("position" smallint, quantity bigint, net bigint)
language sql stable as $$
  select line.position, (line.quantity + coalesce(sum(back.quantity), 0))::bigint,
         (line.net + coalesce(sum(back.net), 0))::bigint
  from sale_line as line
  left join sale_line as back on back.return_sale = line.sale_id and back.return_position = line.position
    and not exists (select 1 from sale_void where sale_void.sale_id = back.sale_id and state = 'done')
  where line.sale_id = of_sale and line.quantity > 0 and line.stored_value_id is null and line.account_id is null
    and coalesce(line.promise_part, 'goods') = 'goods'
  group by line.sale_id, line.position
$$;
