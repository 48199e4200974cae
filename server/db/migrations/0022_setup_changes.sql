-- Who changed what in Setup. History: it is only ever added to.
create table setup_change (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  staff_id integer not null references staff,
  section text not null,
  what text not null,
  was text not null,
  became text not null
);
create index setup_change_section on setup_change (section, id);
create trigger setup_change_is_history before update or delete or truncate on setup_change
  for each statement execute function refuse_change();
