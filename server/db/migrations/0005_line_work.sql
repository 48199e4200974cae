-- Typed prices, notes, gift marks, sales without tax, and steps that a second person approved.

alter table shop add column open_price_limit bigint not null default 50000 check (open_price_limit >= 0);

alter table sale add column note text not null default '' check (length(note) <= 500);
alter table sale add column exempt_reason text check (length(exempt_reason) between 1 and 120);
alter table sale add column exempt_certificate text not null default '' check (length(exempt_certificate) <= 60);
alter table sale_line add column note text not null default '' check (length(note) <= 200);
alter table sale_line add column gift boolean not null default false;

-- A step that needed more rights: who asked for it, who approved it, and why.
create table countersign (
  id uuid primary key,
  at timestamptz not null,
  till_id integer not null references till,
  basket_id uuid not null,
  "right" text not null,
  reason text not null check (length(reason) between 1 and 200),
  asked_by integer not null references staff,
  granted_by integer not null references staff
);
create index countersign_basket on countersign (basket_id);
create trigger countersign_is_history before update or delete or truncate on countersign
  for each statement execute function refuse_change();

alter table print_job drop constraint print_job_kind_check;
alter table print_job add constraint print_job_kind_check
  check (kind in ('receipt', 'copy', 'gift-receipt', 'shift-report', 'hold-ticket'));

insert into role_right (role, "right")
select role, name
from unnest(array['supervisor', 'manager']) as role, unnest(array['price.change', 'tax.exempt', 'open-price.large']) as name
where exists (select 1 from shop);
