-- How is paid, what stored value is and why it moves are rows, laid from core: a new kind restates no list.
create table tender_kind (name text primary key);
insert into tender_kind values
  ('cash'), ('card'), ('stored-value'), ('account'), ('noted-card'), ('cheque'), ('transfer'), ('foreign-cash'), ('voucher');
alter table tender_type drop constraint tender_type_kind_check, add foreign key (kind) references tender_kind;
alter table tender drop constraint tender_kind_check, add foreign key (kind) references tender_kind;

create table stored_value_kind (name text primary key);
insert into stored_value_kind values ('gift-card'), ('certificate'), ('store-credit');
alter table stored_value drop constraint stored_value_kind_check, add foreign key (kind) references stored_value_kind;

create table stored_value_reason (name text primary key);
insert into stored_value_reason values
  ('opening'), ('sold'), ('topped up'), ('redeemed'), ('rest lapsed'), ('given back'), ('moved in'), ('moved out'),
  ('expired'), ('refunded'), ('taken back');
alter table stored_value_move
  drop constraint stored_value_move_kind_check,
  add foreign key (kind) references stored_value_reason;
