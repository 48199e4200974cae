-- Which ways to pay lie in the drawer is laid from core with their names.
alter table tender_kind add column in_drawer boolean not null default false;
update tender_kind set in_drawer = true where name in ('cash', 'foreign-cash');
