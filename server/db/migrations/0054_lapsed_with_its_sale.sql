-- What lapsed when a certificate that is used once was paid with belongs to the sale, so that voiding it undoes both. It
-- was posted by itself until now; a sale can be voided while its shift is open, so only those events are given theirs.
alter table ledger_event disable trigger ledger_event_is_history;

update ledger_event as event set sale_id = sale.id
from sale join shift on shift.id = sale.shift_id and shift.state = 'open'
where event.kind = 'stored-value' and event.sale_id is null
  and event.at = sale.finished_at and event.till_id = sale.till_id and event.staff_id = sale.staff_id
  and exists (select 1 from stored_value_move as move where move.sale_id = sale.id and move.kind = 'rest lapsed')
  and exists (select 1 from ledger_entry where event_id = event.id and account = 'lapsed-value');

alter table ledger_event enable trigger ledger_event_is_history;
