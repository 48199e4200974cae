-- Families of variants, bundles, serial numbers, pictures, and items that ask before they are sold.

create table picture (
  id integer generated always as identity primary key,
  name text not null unique check (length(name) between 1 and 60),
  media_type text not null check (media_type in ('image/svg+xml', 'image/png', 'image/jpeg')),
  content bytea not null
);

alter table item
  add column kind text not null default 'goods' check (kind in ('goods', 'family', 'bundle')),
  -- Of a family: what its variants differ in. Of a variant: its family, and its value on each axis.
  add column axes text[] not null default '{}',
  add column family_id integer references item,
  add column variant text[] not null default '{}',
  add column serials boolean not null default false,
  add column min_age smallint check (min_age between 1 and 99),
  add column asks_note text not null default '' check (length(asks_note) <= 120),
  add column picture_id integer references picture,
  add check (case kind when 'family' then cardinality(axes) between 1 and 2 else cardinality(axes) = 0 end),
  add check ((family_id is null) = (cardinality(variant) = 0)),
  add check (kind = 'goods' or (price is null and not stocked and not serials and family_id is null)),
  -- A serial number belongs to one whole unit.
  add check (not serials or decimals = 0);
create unique index item_variant on item (family_id, variant) where family_id is not null;

create table bundle_part (
  bundle_id integer not null references item,
  position smallint not null,
  item_id integer not null references item,
  quantity bigint not null check (quantity > 0),
  primary key (bundle_id, position)
);

-- Every unit that was ever known by its serial number; without a sale it is in stock.
create table serial (
  item_id integer not null references item,
  serial text not null check (length(serial) between 1 and 40),
  place_id integer not null references place,
  sale_id uuid references sale,
  primary key (item_id, serial)
);
create index serial_in_stock on serial (item_id, place_id) where sale_id is null;

alter table sale_line
  add column serial text check (length(serial) between 1 and 40),
  add column bundle text check (length(bundle) between 1 and 120),
  add column age_checked boolean not null default false,
  add check (serial is null or abs(quantity) = 1000);
create unique index sale_line_serial on sale_line (item_id, serial, sale_id) where serial is not null;

-- How codes with a price or weight inside are to be read, and what unlisted things are sold as.
alter table shop
  add column code_layouts text[] not null default '{}',
  add column open_item_id integer references item;

insert into role_right (role, "right")
select role, name
from unnest(array['supervisor', 'manager']) as role,
     unnest(array['line.remove-late', 'return.no-receipt', 'drawer.no-sale', 'goods.edit']) as name
where exists (select 1 from shop);
