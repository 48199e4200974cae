-- Whether a drawer may be counted as one total when it is closed, instead of piece by piece.
alter table shop add column count_as_total boolean not null default false;
