-- The list of goods is read in the order of names, and asks which categories are in use.
create index item_name on item (name, number);
create index item_category on item (category_id);
