-- Which write stored the basket: a window whose answer was lost knows by it that nobody else changed it.
alter table basket add column saved_by uuid;
