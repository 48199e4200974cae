-- A code or number is found however its letters are written.
create index item_code_plain on item_code (lower(code));
create index item_number_plain on item (lower(number));
