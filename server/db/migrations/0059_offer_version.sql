-- Whoever changes an offer says which state of it they have looked at.
alter table offer add version integer not null default 1;
