-- The touch pages of the Counter: one document for the shop, so that a page and its tiles change together.

create table shelves (
  id integer primary key default 1 check (id = 1),
  revision integer not null default 0,
  content jsonb not null default '[]' check (jsonb_typeof(content) = 'array')
);
insert into shelves default values;

insert into role_right (role, "right")
select role, 'shelves.arrange' from unnest(array['supervisor', 'manager']) as role where exists (select 1 from shop);
