-- What points are worth to the shop's books: each in millionths of a minor unit of money, of which so large a part is expected
-- to be used. Zero where the shop does not value them.
alter table shop
  add column points_worth bigint not null default 0 check (points_worth between 0 and 1000000000000),
  add column points_use integer not null default 1000000 check (points_use between 0 and 1000000);

-- What the books hold for somebody's points.
alter table customer add column points_booked bigint not null default 0 check (points_booked >= 0);
