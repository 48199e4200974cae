-- Goods as they are looked after: who changed what, tags, prices from a day on, and stock that is put right by hand.
alter table item
  -- Counts changes, so that nobody overwrites what somebody else changed meanwhile.
  add column version integer not null default 1,
  add column added_at timestamptz not null default now(),
  -- Words by which the list finds it; empty until they are made.
  add column words text not null default '';
update item set added_at = coalesce((select min(changed_at) from item_price where item_id = item.id), added_at);

-- Tills hear of what they show; how an item is found in the list is no such thing.
drop trigger item_touched on item;
create trigger item_touched before update of number, name, category_id, unit, decimals, price, tax_category_id, stocked,
  active, kind, axes, family_id, variant, serials, min_age, asks_note, picture_id on item
  for each row execute function touch_item();

create table item_tag (
  item_id integer not null references item,
  tag text not null check (length(tag) between 1 and 40),
  primary key (item_id, tag)
);
create index item_tag_tag on item_tag (tag);

create table item_change (
  id bigint generated always as identity primary key,
  item_id integer not null references item,
  at timestamptz not null,
  -- Nobody, where the shop's own rule did it.
  staff_id integer references staff,
  what text not null,
  was text not null,
  became text not null
);
create index item_change_item on item_change (item_id, id);
create trigger item_change_is_history before update or delete or truncate on item_change
  for each statement execute function refuse_change();

-- Prices that count from a day on; taken into the item when that day begins where the shop is.
create table item_price_to_come (
  item_id integer not null references item,
  from_day date not null,
  price bigint not null check (price >= 0),
  staff_id integer references staff,
  noted_at timestamptz not null,
  primary key (item_id, from_day)
);
create index item_price_to_come_day on item_price_to_come (from_day);

-- A right for whoever may look after goods already.
insert into role_right (role, "right") select role, 'stock.move' from role_right where "right" = 'goods.edit'
on conflict do nothing;

-- Who moved stock by hand, and what they said.
alter table stock_move
  add column staff_id integer references staff,
  add column words text not null default '' check (length(words) <= 200);
