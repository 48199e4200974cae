-- Every price that an item has had, and a few words about it.

alter table item add column description text not null default '' check (length(description) <= 1000);

create table item_price (
  item_id integer not null references item,
  changed_at timestamptz not null default now(),
  price bigint,
  primary key (item_id, changed_at)
);

create function note_item_price() returns trigger language plpgsql as $$
begin
  insert into item_price (item_id, changed_at, price) values (new.id, clock_timestamp(), new.price);
  return null;
end $$;
create trigger item_price_noted after insert on item for each row execute function note_item_price();
create trigger item_price_changed after update of price on item for each row
  when (old.price is distinct from new.price) execute function note_item_price();
create trigger item_price_is_history before update or delete or truncate on item_price
  for each statement execute function refuse_change();

insert into item_price (item_id, price) select id, price from item;
