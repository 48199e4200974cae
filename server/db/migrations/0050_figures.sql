-- What a shop's days were like, kept with each sale so that nothing is added up when it is asked for.

-- When the shop's day ends, in hours after midnight: a sale before then belongs to the day before.
alter table shop add column day_ends smallint not null default 0 check (day_ends between 0 and 8),
  -- Who hears in the evening what the day was like, after the last drawer is closed.
  add column summary_mail text not null default '' check (length(summary_mail) <= 200);

-- The hour as the shop's clock read it, and the category that goods had when they were sold.
alter table sale add column hour smallint check (hour between 0 and 23);
alter table sale_line add column category_id integer references category;
alter table sale disable trigger sale_is_history;
update sale set hour = extract(hour from finished_at at time zone (select timezone from shop));
alter table sale enable trigger sale_is_history;
alter table sale alter column hour set not null;
alter table sale_line disable trigger sale_line_is_history;
update sale_line as line set category_id = item.category_id from item where item.id = line.item_id;
alter table sale_line enable trigger sale_line_is_history;
alter table sale_line alter column category_id set not null;

create or replace view standing_sale as
  select * from sale where not exists (select 1 from sale_void where sale_id = sale.id and state = 'done');

create table figure_kind (name text primary key);

-- One row for what happened on a till in an hour of a day. What the numbers say depends on the kind.
create table day_figure (
  kind text not null references figure_kind,
  day date not null,
  till_id integer not null references till,
  hour smallint not null check (hour between 0 and 23),
  subject text not null,
  count integer not null,
  quantity bigint not null,
  amount bigint not null,
  more bigint not null,
  primary key (kind, day, till_id, hour, subject)
);

create index tender_correction_sale on tender_correction (sale_id);
-- Items by day, and what happens to costs by day.
create index sale_line_category on sale_line (category_id);
create index sale_void_done on sale_void (done_at) where state = 'done';

-- What a line comes to without the tax that its price contains.
create function without_tax(net bigint, taxes jsonb) returns bigint language sql immutable parallel safe as $$
  select net - coalesce(sum((tax->>'tax')::bigint), 0)::bigint from jsonb_array_elements(taxes) as tax
$$;

insert into role_right (role, "right") select role, 'figures.see' from role_right where "right" = 'books.see'
on conflict do nothing;
