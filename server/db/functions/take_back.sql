-- Takes back what a return brings: never more than was sold, never for more than was paid, and not from a sale that was
-- voided. Codes, uses and points of an offer are given back when nothing is kept of what it reduced; points that paid
-- for what came back are given back, and what the sale earns is worked out again on what is kept.
create or replace function take_back(by_return uuid, at_time timestamptz) returns void language plpgsql as $$
declare
  origin record;
  given record;
begin
  for origin in
    select distinct return_sale as id from sale_line where sale_id = by_return and return_sale is not null order by 1
  loop
    if exists (select 1 from sale_void where sale_id = origin.id) then
      raise exception 'was voided' using errcode = 'MH008';
    end if;
    perform 1 from lines_left(origin.id) as rest where rest.quantity < 0;
    if found then
      raise exception 'came back already' using errcode = 'MH008';
    end if;
    if (select sum(rest.net) from lines_left(origin.id) as rest) < 0 then
      raise exception 'more than was paid' using errcode = 'MH008';
    end if;

    for given in
      select used.offer_id, used.customer_id, used.code, sum(used.uses) as uses
      from offer_use as used
      where used.sale_id = origin.id and not exists (
        select 1 from lines_left(origin.id) as rest
        join sale_line as line on line.sale_id = origin.id and line.position = rest.position
        cross join jsonb_array_elements(line.records) as record
        where rest.quantity > 0 and (record->>'offerId')::integer = used.offer_id)
      group by 1, 2, 3 having sum(used.uses) > 0
    loop
      insert into offer_use (offer_id, sale_id, customer_id, code, uses, at, back_with)
      values (given.offer_id, origin.id, given.customer_id, given.code, -given.uses, at_time, by_return);
      perform put_points_back(coalesce(customer.merged_into, customer.id), given.uses * offer.points, 'given back',
                              origin.id, at_time, array['reward', 'taken again'], by_return)
      from offer, customer
      where offer.id = given.offer_id and offer.needs = 'points' and customer.id = given.customer_id
        and customer.forgotten_at is null;
    end loop;
    perform settle_points_off(origin.id, at_time, by_return);
    perform settle_points(origin.id, at_time, by_return);
  end loop;
end $$;
