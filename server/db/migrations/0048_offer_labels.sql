-- A label may show what an offer makes of a price, which counts until the offer ends.
alter table label_print_line
  add column offer_price bigint check (offer_price >= 0),
  add column offer_until date;
alter table item_label
  add column offer_id integer references offer,
  add column offer_until date;
