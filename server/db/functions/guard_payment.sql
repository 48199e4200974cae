-- A sale is paid for once: no payment begins for a sale that is finished, and one that is finished stays so.
create or replace function guard_payment() returns trigger language plpgsql as $$
begin
  if tg_op = 'UPDATE' and old.state = 'finished' then
    raise exception 'a finished payment cannot be changed' using errcode = 'MH010';
  end if;
  if new.state = 'open' and exists (select 1 from sale where id = new.basket_id) then
    raise exception 'the sale is finished' using errcode = 'MH010';
  end if;
  return new;
end $$;
