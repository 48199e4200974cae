-- Card payments are found by their approval, and what was settled by its payment.
create index payment_tender_approval on payment_tender (approval) where approval is not null;
create index settlement_entry_tender on settlement_entry (tender_id) where tender_id is not null;
