-- Goods are counted while the shop sells: each entry keeps what the books said at that very moment.
create sequence stock_count_number;
create table stock_count (
  id integer generated always as identity primary key,
  number integer not null unique,
  place_id integer not null references place,
  words text not null default '' check (length(words) <= 80),
  -- Which goods are to be counted; nothing of either is whatever is scanned.
  categories integer[] not null default '{}',
  suppliers integer[] not null default '{}',
  everything boolean not null default false,
  -- Who counts does not see what the books say.
  blind boolean not null,
  state text not null default 'open' check (state in ('open', 'booked', 'cancelled')),
  begun_at timestamptz not null,
  begun_by integer not null references staff,
  ended_at timestamptz,
  ended_by integer references staff,
  event_id bigint references ledger_event,
  check ((state = 'open') = (ended_at is null) and (ended_at is null) = (ended_by is null))
);
create index stock_count_open on stock_count (place_id) where state = 'open';

create table count_entry (
  id bigint generated always as identity primary key,
  count_id integer not null references stock_count,
  item_id integer not null references item,
  quantity bigint not null check (quantity >= 0),
  serial text check (length(serial) between 1 and 40),
  -- What the books said when it was counted, and the last move of the item there until then.
  level bigint not null,
  after_move bigint not null,
  at timestamptz not null,
  staff_id integer not null references staff,
  -- It was taken back, or the item is counted again.
  withdrawn_at timestamptz
);
create index count_entry_item on count_entry (count_id, item_id) where withdrawn_at is null;
create unique index count_entry_serial on count_entry (count_id, item_id, serial) where withdrawn_at is null and serial is not null;

-- What a count found when it was booked.
create table count_difference (
  count_id integer not null references stock_count,
  item_id integer not null references item,
  counted bigint not null,
  expected bigint not null,
  cost bigint not null,
  primary key (count_id, item_id)
);
