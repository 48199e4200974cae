-- Loyalty: what a shop gives points for, and points in lots that end together.

alter table shop
  add column points_on boolean not null default false,
  -- What they are called.
  add column points_word text not null default 'points' check (length(points_word) between 1 and 20),
  -- So many points for each so much of money, in minor units.
  add column points_given integer not null default 1 check (points_given between 1 and 1000000),
  add column points_per bigint not null default 100 check (points_per between 1 and 1000000000),
  -- Points end so many months after they were earned; 0 for never.
  add column points_months smallint not null default 0 check (points_months between 0 and 120),
  -- What comes back into a lot that has ended can be used for so many days.
  add column points_back_days smallint not null default 30 check (points_back_days between 1 and 366),
  -- Who joins so many days after a sale still gets its points.
  add column points_join_days smallint not null default 14 check (points_join_days between 0 and 366);

-- What is taken back for goods that came back may have been spent: the balance goes below zero then. Redeeming never does.
alter table customer drop constraint customer_points_check;

alter table points_move
  add column staff_id integer references staff,
  add column words text not null default '' check (length(words) <= 200);
create index points_move_sale on points_move (sale_id) where sale_id is not null;

-- Points that were earned together and end together; below zero, points that are still to be made good.
create table points_lot (
  id bigint generated always as identity primary key,
  customer_id integer not null references customer,
  amount bigint not null check (amount <> 0),
  remaining bigint not null,
  ends_on date,
  sale_id uuid references sale,
  at timestamptz not null,
  check (case when amount > 0 then remaining between 0 and amount else remaining between amount and 0 end)
);
create index points_lot_left on points_lot (customer_id, ends_on, id) where remaining <> 0;
create index points_lot_ends on points_lot (ends_on) where remaining > 0;

-- From which lots a move took, and into which it put.
create table points_use (
  move_id bigint not null references points_move,
  lot_id bigint not null references points_lot,
  amount bigint not null check (amount <> 0),
  primary key (move_id, lot_id)
);
create index points_use_lot on points_use (lot_id);
create trigger points_use_is_history before update or delete or truncate on points_use
  for each statement execute function refuse_change();

-- What a sale gives points by: as the programme was on that day, to whom, and who let them join afterwards.
create table sale_points (
  sale_id uuid primary key references sale,
  customer_id integer not null references customer,
  given integer not null check (given > 0),
  per bigint not null check (per > 0),
  months smallint not null check (months >= 0),
  at timestamptz not null,
  joined_by integer references staff
);
create index sale_points_customer on sale_points (customer_id);
create trigger sale_points_is_history before update or delete or truncate on sale_points
  for each statement execute function refuse_change();

-- What customers have had so far never ends.
with lots as (
  insert into points_lot (customer_id, amount, remaining, at)
  select id, points, points, added_at from customer where points <> 0 returning id, customer_id, amount
)
insert into points_use (move_id, lot_id, amount)
select (select max(move.id) from points_move as move where move.customer_id = lots.customer_id), id, amount from lots;

insert into role_right (role, "right")
select role, 'points.correct' from unnest(array['supervisor', 'manager']) as role where exists (select 1 from shop)
on conflict do nothing;
