-- A sale is voided, or one of its payments corrected, or goods come back from it along that payment: the figures of one
-- would not know of the other.
create or replace function guard_after_sale() returns trigger language plpgsql as $$
begin
  perform 1 from sale where id = new.sale_id for update;
  if tg_table_name = 'sale_void' then
    if exists (select 1 from tender_correction where sale_id = new.sale_id) then
      raise exception 'A payment of it was corrected.' using errcode = 'MH009';
    end if;
    if exists (select 1 from sale_line as back where back.return_sale = new.sale_id
                 and not exists (select 1 from sale_void where sale_id = back.sale_id and state = 'done')) then
      raise exception 'Goods of it came back already.' using errcode = 'MH009';
    end if;
    if refund_under_way(new.sale_id, null) then
      raise exception 'Money is being given back for it just now.' using errcode = 'MH009';
    end if;
  elsif exists (select 1 from sale_void where sale_id = new.sale_id) then
    raise exception 'the sale was voided' using errcode = 'MH010';
  end if;
  return new;
end $$;
