-- Discounts that people give: what the shop has ready, and how far each role may go alone.

create table discount_preset (
  id integer generated always as identity primary key,
  name text not null check (length(name) between 1 and 60),
  kind text not null check (kind in ('percent', 'amount')),
  -- Parts per million, or an amount in minor units.
  value bigint not null check (value > 0 and (kind = 'amount' or value <= 1000000)),
  needs_customer boolean not null default false,
  -- Only for members of a group.
  group_id integer references customer_group,
  active boolean not null default true,
  check (group_id is null or needs_customer)
);
create unique index discount_preset_name on discount_preset (name) where active;

create table role_discount_limit (
  role text primary key check (role in ('cashier', 'supervisor', 'manager')),
  rate integer not null check (rate between 0 and 1000000)
);
insert into role_discount_limit values ('cashier', 100000), ('supervisor', 300000), ('manager', 1000000);

insert into role_right (role, "right")
select role, 'discount.large' from unnest(array['supervisor', 'manager']) as role where exists (select 1 from shop);
