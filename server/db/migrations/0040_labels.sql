-- Labels for shelves and goods: how they lie on the shop's sheets, what was printed, and which price stands on the label of an
-- item.
alter table shop add column label_layout jsonb;

create table label_print (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  staff_id integer not null references staff,
  layout jsonb not null,
  -- The first place of the first sheet that was free, from 1.
  first_place smallint not null check (first_place > 0)
);
create table label_print_line (
  print_id bigint not null references label_print,
  position smallint not null,
  item_id integer not null references item,
  copies smallint not null check (copies between 1 and 999),
  number text not null,
  name text not null,
  unit text not null,
  price bigint,
  code text not null,
  primary key (print_id, position)
);
create trigger label_print_is_history before update or delete or truncate on label_print
  for each statement execute function refuse_change();
create trigger label_print_line_is_history before update or delete or truncate on label_print_line
  for each statement execute function refuse_change();

create table item_label (
  item_id integer primary key references item,
  price bigint,
  print_id bigint not null references label_print
);
