-- What may never be true of a payment, whoever writes it: a state that does not follow from the one before, a payment
-- on a finished basket, an undo of what is finished, and more money back along a payment than it took.
create or replace function guard_payment_tender() returns trigger language plpgsql as $$
declare
  paying text;
  voiding boolean;
  most bigint;
begin
  if tg_op = 'UPDATE' and new.state = old.state and new.amount = old.amount and new.refund = old.refund then
    return new;
  end if;
  select state into paying from payment where basket_id = new.basket_id for update;
  voiding := exists (select 1 from sale_void where sale_id = new.basket_id and state = 'begun');

  if (new.account_id is null) = (select kind = 'account' from tender_type where id = new.type_id) then
    raise exception 'what is paid on account names the account' using errcode = 'MH010';
  end if;

  if tg_op = 'INSERT' then
    if new.state not in ('stored', 'approved') then
      raise exception 'a payment begins as stored or approved' using errcode = 'MH010';
    end if;
    -- What a void refunds stands beside the sale's own payments; so does what came too late and is sent back.
    if paying <> 'open' and not (new.refund and (voiding or new.sends_back is not null)) then
      raise exception 'the sale is finished' using errcode = 'MH010';
    end if;
  else
    if new.state <> old.state
       and not exists (select 1 from tender_step where from_state = old.state and to_state = new.state) then
      raise exception '% does not follow from %', new.state, old.state using errcode = 'MH010';
    end if;
    -- What the till went on without is sent back whatever became of the sale.
    if paying <> 'open' and not voiding and old.state not in ('abandoned', 'undoing') and new.sends_back is null then
      raise exception 'the payments of a finished sale stand' using errcode = 'MH010';
    end if;
  end if;

  if new.refunds_sale is not null and (select holds from tender_state where name = new.state) then
    perform 1 from sale where id = new.refunds_sale for update;
    if new.basket_id = new.refunds_sale then
      -- A void gives back a payment with its tip, once.
      select paid.amount + paid.tip - coalesce((
          select sum(other.amount) from payment_tender as other
          join tender_state on tender_state.name = other.state and tender_state.holds
          where other.basket_id = new.basket_id and other.id <> new.id and other.refund
            and other.refunds_position = new.refunds_position), 0)
      into most from tender as paid where paid.sale_id = new.refunds_sale and paid.position = new.refunds_position;
    else
      select rest.amount + case when tg_op = 'UPDATE' and (select holds from tender_state where name = old.state)
                                then old.amount else 0 end
      into most from refunds_left(array[new.refunds_sale]) as rest where rest.position = new.refunds_position;
    end if;
    if new.amount > coalesce(most, 0) then
      raise exception 'a payment would give back more than it took' using errcode = 'MH010';
    end if;
  end if;
  return new;
end $$;
