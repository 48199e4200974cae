-- Returns, exchanges, voids; what is needed to find a sale among a million; hand over and corrections of a shift.

-- What goods that come back may cost the shop. A role without a limit refunds any amount.
alter table shop
  add column return_days integer not null default 30 check (return_days between 0 and 3650),
  add column no_receipt_days integer not null default 90 check (no_receipt_days between 1 and 3650),
  add column no_receipt_warning integer not null default 3 check (no_receipt_warning > 0),
  add column refund_rest text not null default 'cash' check (refund_rest in ('cash', 'store-credit')),
  -- Above so much cash a safe drop is suggested; zero is never.
  add column drop_above bigint not null default 0 check (drop_above >= 0),
  add column blind_count boolean not null default false,
  -- A shortage above this goes to the managers at once.
  add column short_limit bigint not null default 1000 check (short_limit >= 0),
  add column managers_mail text not null default '' check (length(managers_mail) <= 200);

create table role_refund_limit (
  role text primary key check (role in ('cashier', 'supervisor', 'manager')),
  amount bigint check (amount >= 0)
);
insert into role_refund_limit values ('cashier', 20000), ('supervisor', 100000), ('manager', null);

alter table offer add column on_return text not null default 'share' check (on_return in ('share', 're-price', 'ask'));

alter table sale drop constraint sale_total_check;
alter table sale add column kind text not null default 'sale' check (kind in ('sale', 'return', 'exchange'));
alter table sale add constraint sale_total_of_kind check (total >= 0 or kind <> 'sale');

alter table sale_line
  -- What tax was paid for the line, by which a part of it is given back.
  add column taxes jsonb not null default '[]',
  add column return_reason text check (length(return_reason) between 1 and 120),
  add column condition text check (condition in ('to-stock', 'damaged', 'to-supplier')),
  -- The line of an earlier sale that the goods come back from; nothing without its receipt.
  add column return_sale uuid references sale,
  add column return_position smallint,
  add constraint sale_line_returned foreign key (return_sale, return_position) references sale_line (sale_id, position),
  add check ((return_sale is null) = (return_position is null)),
  add check (return_sale is null or (quantity < 0 and return_reason is not null and condition is not null));
create index sale_line_return on sale_line (return_sale, return_position) where return_sale is not null;

-- Lines from before taxes were kept per line get their part of what their sale paid.
alter table sale_line disable trigger sale_line_is_history;
with part as (
  select line.sale_id, line.position, amount.position as place, amount.tax_rate_id, amount.name, amount.rate, amount.base,
         amount.tax, line.net,
         sum(line.net) over whole as nets,
         sum(line.net) over (partition by line.sale_id, amount.position order by line.position) as upto
  from sale_line as line
  join sale_tax as amount on amount.sale_id = line.sale_id
  join tax_rate on tax_rate.id = amount.tax_rate_id
  join item on item.id = line.item_id and item.tax_category_id = tax_rate.tax_category_id
  where line.stored_value_id is null
  window whole as (partition by line.sale_id, amount.position)
), shared as (
  select *, case nets when 0 then 0 else round(tax::numeric * upto / nets) - round(tax::numeric * (upto - net) / nets) end
    ::bigint as mine
  from part
)
update sale_line as line set taxes = held.taxes
from (select sale_id, position, jsonb_agg(jsonb_build_object('rateId', tax_rate_id, 'name', name, 'rate', rate,
        'base', net, 'tax', mine) order by place) as taxes from shared group by sale_id, position) as held
where held.sale_id = line.sale_id and held.position = line.position;
alter table sale_line enable trigger sale_line_is_history;

alter table stock_move drop constraint stock_move_reason_check;
alter table stock_move add constraint stock_move_reason_check
  check (reason in ('opening', 'sale', 'return', 'damaged', 'to-supplier', 'void'));

-- Money that goes back stands below zero.
alter table tender drop constraint tender_amount_check;
alter table tender drop constraint tender_check;
alter table tender
  add constraint tender_amount check (amount <> 0),
  add constraint tender_handed check (handed >= amount and (amount > 0 or handed = amount)),
  -- The payment along which it goes back.
  add column refunds_sale uuid references sale,
  add column refunds_position smallint,
  add foreign key (refunds_sale, refunds_position) references tender (sale_id, position),
  add check (refunds_sale is null or amount < 0);
create index tender_refunds on tender (refunds_sale) where refunds_sale is not null;
create index tender_stored_value on tender (stored_value_id) where stored_value_id is not null;

alter table payment_tender
  add column refund boolean not null default false,
  -- The payment of the sale that it goes back along.
  add column refunds_sale uuid,
  add column refunds_position smallint,
  add foreign key (refunds_sale, refunds_position) references tender (sale_id, position),
  add check (refunds_sale is null or refund);

-- A sale that was cancelled in its shift as if it had not been. Begun: its card payments are being taken back.
create table sale_void (
  sale_id uuid primary key references sale,
  state text not null check (state in ('begun', 'done')),
  reason text not null check (length(reason) between 1 and 120),
  till_id integer not null references till,
  shift_id bigint not null references shift,
  staff_id integer not null references staff,
  countersign_id uuid references countersign,
  began_at timestamptz not null,
  done_at timestamptz,
  check ((state = 'done') = (done_at is not null))
);
create index sale_void_shift on sale_void (shift_id);
create function refuse_void_change() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' or old.state = 'done' then
    raise exception 'a void is history and cannot be changed' using errcode = 'MH001';
  end if;
  return new;
end $$;
create trigger sale_void_is_history before update or delete on sale_void
  for each row execute function refuse_void_change();

-- Sales that count: what was voided is in the journal, and nowhere else.
create view standing_sale as
  select * from sale where not exists (select 1 from sale_void where sale_id = sale.id and state = 'done');

alter table stored_value_move drop constraint stored_value_move_kind_check;
alter table stored_value_move add constraint stored_value_move_kind_check check (kind in
  ('opening', 'sold', 'topped up', 'redeemed', 'rest lapsed', 'given back', 'moved in', 'moved out', 'expired',
   'refunded', 'taken back'));

-- Uses and points that a return gave back are taken again when the return is voided.
alter table offer_use add column back_with uuid references sale;
create index offer_use_back on offer_use (back_with) where back_with is not null;
alter table points_move add column back_with uuid references sale;
create index points_move_back on points_move (back_with) where back_with is not null;
alter table points_move drop constraint points_move_reason_check;
alter table points_move add constraint points_move_reason_check
  check (reason in ('opening', 'reward', 'given back', 'taken again'));

-- The drawer goes to the next person without being closed.
create table shift_handover (
  id uuid primary key,
  shift_id bigint not null references shift,
  at timestamptz not null,
  from_staff integer not null references staff,
  to_staff integer not null references staff,
  pieces jsonb not null,
  counted bigint not null,
  expected bigint not null,
  note text not null default '' check (length(note) <= 500)
);
create index shift_handover_shift on shift_handover (shift_id);
create trigger shift_handover_is_history before update or delete or truncate on shift_handover
  for each statement execute function refuse_change();

-- A payment that was recorded as another means than it was; the sale's own record stays.
create table tender_correction (
  id uuid primary key,
  at timestamptz not null,
  shift_id bigint not null references shift,
  sale_id uuid not null,
  position smallint not null,
  from_type integer not null references tender_type,
  to_type integer not null references tender_type,
  amount bigint not null check (amount <> 0),
  reason text not null check (length(reason) between 1 and 120),
  staff_id integer not null references staff,
  foreign key (sale_id, position) references tender (sale_id, position),
  check (from_type <> to_type)
);
create index tender_correction_shift on tender_correction (shift_id);
create unique index tender_correction_once on tender_correction (sale_id, position);
create trigger tender_correction_is_history before update or delete or truncate on tender_correction
  for each statement execute function refuse_change();

-- A difference of a closed shift that was explained later, and booked where it belongs.
create table variance_note (
  id uuid primary key,
  shift_id bigint not null references shift,
  at timestamptz not null,
  amount bigint not null check (amount <> 0),
  reason text not null check (length(reason) between 1 and 200),
  staff_id integer not null references staff
);
create index variance_note_shift on variance_note (shift_id);
create trigger variance_note_is_history before update or delete or truncate on variance_note
  for each statement execute function refuse_change();

alter table ledger_event add column correction_id uuid references tender_correction;
alter table ledger_event drop constraint ledger_event_kind_check;
alter table ledger_event add constraint ledger_event_kind_check
  check (kind in ('opening', 'shift-opened', 'sale', 'void', 'cash-move', 'correction', 'shift-closed', 'settlement',
                  'stored-value'));
create index ledger_event_sale on ledger_event (sale_id) where sale_id is not null;
create index ledger_event_at on ledger_event (at);

alter table outbox add column shift_id bigint references shift;
alter table outbox drop constraint outbox_check;
alter table outbox add constraint outbox_about_one_thing check (num_nonnulls(sale_id, stored_value_id, shift_id) = 1);

alter table print_job drop constraint print_job_kind_check;
alter table print_job add constraint print_job_kind_check
  check (kind in ('receipt', 'copy', 'gift-receipt', 'shift-report', 'hold-ticket', 'drawer-opening', 'cash-slip',
                  'drawer-only', 'gift-card', 'void-slip', 'handover-slip'));
alter table print_job add column handover_id uuid references shift_handover;
alter table print_job drop constraint print_job_about_one_thing;
alter table print_job add constraint print_job_about_one_thing
  check (num_nonnulls(sale_id, shift_id, held_id, opening_id, cash_move_id, stored_value_id, payment_tender_id,
                      handover_id) = 1);
create index print_job_sale on print_job (sale_id) where sale_id is not null;

-- A day among years, a sale among a million.
create index sale_day on sale (business_date, finished_at desc);
create index sale_total on sale (total);
create index sale_staff on sale (staff_id, finished_at desc);
create index sale_till on sale (till_id, finished_at desc);
create index sale_kind on sale (kind, finished_at desc) where kind <> 'sale';
create index sale_line_item on sale_line (item_id, sale_id);
create index sale_line_serial_number on sale_line (upper(serial)) where serial is not null;
create index payment_tender_last_four on payment_tender (last_four) where last_four is not null;
create index tender_type_sale on tender (type_id, sale_id);
create index tender_reference on tender (reference) where reference <> '';

insert into role_right (role, "right")
select role, word from (values
  ('cashier', 'return.take'), ('supervisor', 'return.take'), ('manager', 'return.take'),
  ('supervisor', 'return.late'), ('manager', 'return.late'),
  ('supervisor', 'return.large'), ('manager', 'return.large'),
  ('supervisor', 'refund.cash'), ('manager', 'refund.cash'),
  ('supervisor', 'sale.void'), ('manager', 'sale.void'),
  ('supervisor', 'drawer.close-any'), ('manager', 'drawer.close-any'),
  ('supervisor', 'drawer.expected'), ('manager', 'drawer.expected'),
  ('manager', 'shift.history'), ('manager', 'books.see')) as granted (role, word)
where exists (select 1 from shop);
