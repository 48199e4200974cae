-- What a sale asks its printer for, and what goes out by mail or text.
create or replace function ask_for_papers(sale_data jsonb) returns void language plpgsql as $$
declare
  new_id uuid := (sale_data->>'id')::uuid;
  at_till integer := (sale_data->>'tillId')::integer;
  finished timestamptz := (sale_data->>'at')::timestamptz;
begin
  if coalesce(sale_data->>'receiptBy', 'print') = 'print' then
    insert into print_job (till_id, kind, sale_id, open_drawer, asked_at)
    values (at_till, 'receipt', new_id, coalesce((sale_data->>'opensDrawer')::boolean, true), finished);
  else
    if (sale_data->>'opensDrawer')::boolean then
      insert into print_job (till_id, kind, sale_id, open_drawer, asked_at)
      values (at_till, 'drawer-only', new_id, true, finished);
    end if;
    if sale_data->>'receiptBy' in ('mail', 'text') and sale_data->>'receiptTo' <> '' then
      insert into outbox (kind, recipient, subject, sale_id, asked_at)
      values (sale_data->>'receiptBy', sale_data->>'receiptTo', 'Your receipt', new_id, finished);
    end if;
  end if;

  if jsonb_path_exists(sale_data->'lines', '$[*].gift ? (@ == true)') then
    insert into print_job (till_id, kind, sale_id, asked_at) values (at_till, 'gift-receipt', new_id, finished);
  end if;
end $$;
