-- Held baskets are counted without gaps, whatever happens to the server: a sequence jumps where it ends at once.
create table ticket_count (only_one boolean primary key default true check (only_one), next_number integer not null);
insert into ticket_count (next_number) select coalesce(max(ticket), 0) + 1 from held_basket;
alter table held_basket alter column ticket drop default;
drop sequence held_ticket;
