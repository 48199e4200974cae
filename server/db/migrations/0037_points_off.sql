-- Points as money off: so many points take such an amount off, up to a part (in millionths) of what the goods cost; with no
-- points as a step they are no money off.
alter table shop
  add column points_off_points integer not null default 0 check (points_off_points between 0 and 1000000),
  add column points_off_amount bigint not null default 0 check (points_off_amount between 0 and 1000000000),
  add column points_off_most integer not null default 1000000 check (points_off_most between 0 and 1000000),
  add constraint points_off_worth check (points_off_points = 0 or points_off_amount > 0);

-- Points that a basket holds while it is being paid, so that two tills do not promise the same ones.
create table points_claim (
  basket_id uuid primary key,
  customer_id integer not null references customer,
  points bigint not null check (points > 0),
  at timestamptz not null
);
create index points_claim_customer on points_claim (customer_id);
