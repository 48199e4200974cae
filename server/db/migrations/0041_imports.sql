-- Lists that are brought in: of customers, and of goods.
alter table customer_import rename to list_import;
alter table customer_import_line rename to list_import_line;
alter index customer_import_open rename to list_import_open;
alter table list_import
  add column subject text not null default 'customers' check (subject in ('customers', 'goods')),
  -- Where the till stands that it was chosen at: what is on hand of new goods lies there.
  add column place_id integer references place;
alter table list_import alter column subject drop default;
-- A customer or an item, as the list is of.
alter table list_import_line drop constraint customer_import_line_customer_id_fkey;
alter table list_import_line rename column customer_id to known_id;

insert into role_right (role, "right") select role, 'goods.import' from role_right where "right" = 'people.manage'
on conflict do nothing;
