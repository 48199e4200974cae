-- Between which accounts an amount moves that the database finds to have moved; laid down from core.
create table ledger_transfer (
  kind text primary key references ledger_event_kind,
  debit text not null,
  credit text not null
);
