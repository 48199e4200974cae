-- The receipt printer of each till; a till without a row prints on the stand-in.
create table till_printer (
  till_id integer primary key references till,
  kind text not null check (kind in ('stand-in', 'network')),
  host text not null,
  port integer not null check (port between 1 and 65535),
  columns integer not null check (columns in (32, 42, 48)),
  code_page text not null,
  cutter boolean not null,
  pulse boolean not null,
  answers boolean not null,
  check (kind = 'stand-in' or host <> '')
);

-- A paper that has begun is printing until the printer says that it is out; where it falls silent in between,
-- nobody but the person in front of it knows: that is doubtful. Nothing doubtful is printed again by itself.
alter table print_job drop constraint print_job_state_check;
alter table print_job add constraint print_job_state_check
  check (state in ('waiting', 'printing', 'doubtful', 'printed', 'dropped'));
drop index print_job_waiting;
create index print_job_open on print_job (till_id, id) where state in ('waiting', 'printing', 'doubtful');

alter table print_job drop constraint print_job_kind_check;
alter table print_job add constraint print_job_kind_check
  check (kind in ('receipt', 'copy', 'gift-receipt', 'shift-report', 'hold-ticket', 'drawer-opening', 'cash-slip',
                  'drawer-only', 'gift-card', 'void-slip', 'handover-slip', 'test-page'));
alter table print_job drop constraint print_job_about_one_thing;
alter table print_job add constraint print_job_about_one_thing
  check (num_nonnulls(sale_id, shift_id, held_id, opening_id, cash_move_id, stored_value_id, payment_tender_id,
                      handover_id) = case kind when 'test-page' then 0 else 1 end);
