-- Functions that stand in files of their own and are laid down again whenever they change.

create table stored_function (
  name text primary key,
  hash text not null
);
