-- A rate holds from a day on, until a later one of the same name begins; a rate of zero ends the tax.

alter table tax_rate
  add column from_day date not null default '0001-01-01',
  add unique (tax_category_id, name, from_day);
