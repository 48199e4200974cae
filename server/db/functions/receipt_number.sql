-- How a receipt is numbered: the till, and the sale's number there, `1-0042`; `core/journal/receiptNumber.ts` reads
-- it again.
create or replace function receipt_number(till integer, number integer) returns text
language sql immutable parallel safe
return till || '-' || lpad(number::text, greatest(4, length(number::text)), '0');
