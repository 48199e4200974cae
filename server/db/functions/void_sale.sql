-- Undoes a sale by counter-entries, as if it had not been; its number stays in the journal. Its card payments have been
-- taken back before. The till's row is locked first, so that voids, sales and closing a shift take turns.
create or replace function void_sale(of_sale uuid, by_staff integer,
  at_time timestamptz) returns void language plpgsql as $$
declare
  sold record;
  undone bigint;
  going record;
  value record;
begin
  perform 1 from till where id = (select till_id from sale where id = of_sale) for no key update;
  perform 1 from payment where basket_id = of_sale for update;
  select sale.*, till.place_id, shift.state as shift_state into sold
  from sale join till on till.id = sale.till_id join shift on shift.id = sale.shift_id
  where sale.id = of_sale for update of sale;
  if sold.shift_state <> 'open' then
    raise exception 'The shift of this sale is closed.' using errcode = 'MH009';
  end if;
  perform 1 from promise where id in (select promise_id from sale_line where sale_id = of_sale) order by id for update;
  perform 1 from account where id in (select account_id from account_item where sale_id = of_sale)
    order by id for update;
  update sale_void set state = 'done', done_at = at_time where sale_id = of_sale and state = 'begun';
  if not found then
    return;
  end if;
  perform count_void(of_sale);

  for going in
    select move.stored_value_id as id, sum(move.amount) as amount, bool_or(move.kind = 'sold') as sold_here
    from stored_value_move as move where move.sale_id = of_sale group by 1 order by 1
  loop
    select * into value from stored_value where id = going.id for update;
    if value.balance < going.amount or value.moved_to is not null then
      raise exception 'The card ·· % was used meanwhile.', right(value.number, 4) using errcode = 'MH009';
    end if;
    update stored_value set balance = balance - going.amount,
      state = case when going.sold_here and balance = going.amount then 'closed'
                   when going.amount > 0 or state = 'closed' then 'active' else state end
    where id = going.id;
    insert into stored_value_move (stored_value_id, kind, amount, sale_id, staff_id, at)
    values (going.id, case when going.amount > 0 then 'taken back' else 'given back' end, -going.amount, of_sale,
            by_staff, at_time);
  end loop;

  perform take_off_account(id, sold.business_date, at_time, by_staff)
  from (select id from account_item where sale_id = of_sale and kind <> 'void' order by id) as item;

  -- Units that went are in stock again; units that came back are where they were.
  update serial set sale_id = null
  from sale_line as line
  where line.sale_id = of_sale and line.quantity > 0 and line.serial is not null
    and serial.item_id = line.item_id and serial.serial = line.serial and serial.sale_id = of_sale;
  for going in
    select item_id, serial as number, name, return_sale from sale_line
    where sale_id = of_sale and quantity < 0 and serial is not null and return_sale is not null
  loop
    update serial set sale_id = going.return_sale
    where item_id = going.item_id and serial = going.number and sale_id is null;
    if not found then
      raise exception '% % was sold meanwhile.', going.name, going.number using errcode = 'MH009';
    end if;
  end loop;

  undone := open_event(jsonb_build_object('kind', 'void', 'at', at_time, 'staffId', by_staff, 'tillId', sold.till_id,
    'saleId', of_sale, 'shiftId', sold.shift_id));
  perform put_goods_back(of_sale, undone, at_time);

  perform void_promises(of_sale, by_staff, at_time);

  perform give_back_offers(of_sale, at_time);
  -- What a return had given back counts as used again.
  insert into offer_use (offer_id, sale_id, customer_id, code, uses, at, back_with)
  select offer_id, sale_id, customer_id, code, -uses, at_time, of_sale from offer_use where back_with = of_sale;
  begin
    perform take_points(coalesce(customer.merged_into, customer.id), past.amount, 'taken again', past.sale_id, at_time,
                        false, of_sale)
    from (select customer_id, sale_id, sum(amount)::bigint as amount from points_move
          where back_with = of_sale and reason = 'given back' group by 1, 2) as past
    join customer on customer.id = past.customer_id where customer.forgotten_at is null;
    perform settle_points_off(origin, at_time, of_sale)
    from (select distinct return_sale as origin from sale_line
      where sale_id = of_sale and return_sale is not null) as back;
  exception when sqlstate 'MH005' then
    raise exception 'The points were used meanwhile.' using errcode = 'MH009';
  end;
  perform settle_points_off(of_sale, at_time);
  perform settle_points(of_sale, at_time);
  perform settle_points(origin, at_time)
  from (select distinct return_sale as origin from sale_line
    where sale_id = of_sale and return_sale is not null) as back;

  perform post_entries(undone, (
    select jsonb_agg(jsonb_build_object('account', account, 'subject', subject_now(subject), 'amount', -amount)
      order by event_id, position)
    from ledger_entry where not is_cost(account)
      -- A rest that lapsed was an event of its own once.
      and event_id in (select id from ledger_event where sale_id = of_sale and kind in ('sale', 'stored-value'))));
  perform post_costs(undone);

  insert into print_job (till_id, kind, sale_id, open_drawer, asked_at)
  select sold.till_id, 'void-slip', of_sale,
         exists (select 1 from tender join tender_type on tender_type.id = type_id and opens_drawer
           where sale_id = of_sale), at_time;
end $$;
