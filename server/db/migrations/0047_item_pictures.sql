-- Pictures of an item, in their order; the first is the one that tills show.
create table item_picture (
  item_id integer not null references item,
  position smallint not null check (position >= 1),
  picture_id integer not null references picture,
  primary key (item_id, picture_id)
);
create unique index item_picture_position on item_picture (item_id, position);
create index item_picture_picture on item_picture (picture_id);
insert into item_picture (item_id, position, picture_id)
select id, 1, picture_id from item where picture_id is not null;
