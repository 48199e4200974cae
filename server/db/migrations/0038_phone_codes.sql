-- A code that is made for the telephone of a customer, who shows it instead of a card.
alter table customer_card add column for_phone boolean not null default false;

-- A mail about a customer: the code for their telephone, with how their points stand.
alter table outbox
  add column customer_id integer references customer,
  drop constraint outbox_about_one_thing,
  add constraint outbox_about_one_thing
    check (num_nonnulls(sale_id, stored_value_id, shift_id, promise_id, account_id, customer_id) = 1);
