-- A unit leaves once: the row of its serial number is locked, and must not have gone with another sale.
create or replace function move_serials(of_sale uuid, at_place integer) returns void language plpgsql as $$
declare
  going record;
begin
  for going in
    select item_id, serial as number, name, quantity, return_sale, promise_id from sale_line
    where sale_id = of_sale and serial is not null order by item_id, serial
  loop
    if going.quantity > 0 then
      insert into serial as known (item_id, serial, place_id, sale_id)
      values (going.item_id, going.number, at_place, of_sale)
      on conflict (item_id, serial) do update set sale_id = of_sale, promise_id = null
        where known.sale_id is null and (known.promise_id is null or known.promise_id = going.promise_id);
    else
      update serial set sale_id = null, place_id = at_place
      where item_id = going.item_id and serial = going.number
        and case when going.return_sale is null then sale_id is not null else sale_id = going.return_sale end;
    end if;
    if not found then
      raise exception '% %', going.name, going.number using errcode = 'MH004';
    end if;
  end loop;
end $$;
