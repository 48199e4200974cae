-- Writes records of customers whole, new ones and known ones: [{id, record, words, sortName, cards, changes}]. Groups
-- that fill themselves stay as their rule has it. Answers with their ids, in the same order.
create or replace function put_customers(customers jsonb, by_staff integer, at_time timestamptz)
returns integer[] language plpgsql as $$
declare
  given jsonb;
begin
  select jsonb_agg(value || jsonb_build_object('of',
           coalesce((value->>'id')::integer, nextval(pg_get_serial_sequence('customer', 'id'))::integer))
             order by place)
  into given from jsonb_array_elements(customers) with ordinality as listed (value, place);

  insert into customer (id, name, company, phone, mail, birth_month, birth_day, note, news, news_on, news_how, words,
                        sort_name, added_at)
  overriding system value
  select (one->>'of')::integer, facts.name, facts.company, facts.phone, facts.mail, facts."birthMonth",
         facts."birthDay", facts.note, facts.news, nullif(facts."newsOn", '')::date, facts."newsHow", one->>'words',
         one->>'sortName', at_time
  from jsonb_array_elements(given) as one, jsonb_to_record(one->'record') as facts (
    name text, company text, phone text, mail text, "birthMonth" smallint, "birthDay" smallint, note text,
    news boolean, "newsOn" text, "newsHow" text)
  where one->>'id' is null;

  update customer set name = facts.name, company = facts.company, phone = facts.phone, mail = facts.mail,
    birth_month = facts."birthMonth", birth_day = facts."birthDay", note = facts.note, news = facts.news,
    news_on = nullif(facts."newsOn", '')::date, news_how = facts."newsHow", words = one->>'words',
    sort_name = one->>'sortName', version = version + 1
  from jsonb_array_elements(given) as one, jsonb_to_record(one->'record') as facts (
    name text, company text, phone text, mail text, "birthMonth" smallint, "birthDay" smallint, note text,
    news boolean, "newsOn" text, "newsHow" text)
  where customer.id = (one->>'id')::integer;

  delete from customer_tag using jsonb_array_elements(given) as one
  where customer_id = (one->>'id')::integer and not one->'record'->'tags' ? tag;
  delete from customer_membership using jsonb_array_elements(given) as one, customer_group
  where customer_id = (one->>'id')::integer and not by_rule and customer_group.id = group_id
    and not one->'record'->'groups' ? customer_group.name;
  delete from customer_address using jsonb_array_elements(given) as one
  where customer_id = (one->>'id')::integer;

  insert into customer_tag (customer_id, tag)
  select (one->>'of')::integer, tag
  from jsonb_array_elements(given) as one, jsonb_array_elements_text(one->'record'->'tags') as tag
  on conflict do nothing;
  insert into customer_membership (customer_id, group_id)
  select (one->>'of')::integer, customer_group.id
  from jsonb_array_elements(given) as one, jsonb_array_elements_text(one->'record'->'groups') as called,
       customer_group
  where customer_group.name = called and customer_group.spent is null
  on conflict do nothing;
  insert into customer_address (customer_id, position, recipient, street, postcode, city)
  select (one->>'of')::integer, place - 1, address->>'recipient', address->>'street', address->>'postcode',
         address->>'city'
  from jsonb_array_elements(given) as one,
       jsonb_array_elements(one->'record'->'addresses') with ordinality as listed (address, place);
  insert into customer_card (code, customer_id, added_at, added_by)
  select code, (one->>'of')::integer, at_time, by_staff
  from jsonb_array_elements(given) as one, jsonb_array_elements_text(one->'cards') as code
  -- A card that somebody else was given just now stays with them.
  on conflict do nothing;
  insert into customer_change (customer_id, at, staff_id, what, was, became)
  select (one->>'of')::integer, at_time, by_staff, change->>'what', change->>'was', change->>'became'
  from jsonb_array_elements(given) as one,
       jsonb_array_elements(one->'changes') with ordinality as listed (change, place)
  order by 1, place;

  return array(select (one->>'of')::integer
               from jsonb_array_elements(given) with ordinality as listed (one, place) order by place);
end $$;
