-- When and for whom purchases give more points: so many times, in hundredths. Of those that fit a line, the largest counts.
create table points_more (
  id integer generated always as identity primary key,
  name text not null check (length(name) between 1 and 60),
  times integer not null check (times between 101 and 10000),
  group_id integer references customer_group,
  category_id integer references category,
  -- 1 for Monday to 7; null for every day.
  weekdays smallint[] check (cardinality(weekdays) between 1 and 7 and weekdays <@ array[1, 2, 3, 4, 5, 6, 7]::smallint[]),
  from_day date,
  to_day date,
  ended_at timestamptz,
  check (from_day is null or to_day is null or from_day <= to_day)
);

-- What the lines of a sale gave more, by their position: as it was on that day.
alter table sale_points add column more jsonb not null default '{}';
