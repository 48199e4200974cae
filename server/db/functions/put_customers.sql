-- Writes records of customers whole, new ones and known ones: [{id, record, words, sortName, cards, changes}]. Groups that
-- fill themselves stay as their rule has it. Answers with their ids, in the same order.
create or replace function put_customers(customers jsonb, by_staff integer, at_time timestamptz)
returns integer[] language plpgsql as $$
declare
  given jsonb;
  facts jsonb;
  one integer;
  known boolean;
  ids integer[] := '{}';
begin
  for given in select value from jsonb_array_elements(customers) loop
    facts := given->'record';
    one := (given->>'id')::integer;
    known := one is not null;
    if known then
      update customer set name = facts->>'name', company = facts->>'company', phone = facts->>'phone',
        mail = facts->>'mail', birth_month = (facts->>'birthMonth')::smallint,
        birth_day = (facts->>'birthDay')::smallint, note = facts->>'note', news = (facts->>'news')::boolean,
        news_on = nullif(facts->>'newsOn', '')::date, news_how = facts->>'newsHow', words = given->>'words',
        sort_name = given->>'sortName', version = version + 1
      where id = one;
      delete from customer_tag where customer_id = one and not facts->'tags' ? tag;
      delete from customer_membership using customer_group as held
      where customer_id = one and not by_rule and held.id = group_id and not facts->'groups' ? held.name;
      delete from customer_address where customer_id = one;
    else
      insert into customer (name, company, phone, mail, birth_month, birth_day, note, news, news_on, news_how, words,
                            sort_name, added_at)
      values (facts->>'name', facts->>'company', facts->>'phone', facts->>'mail',
              (facts->>'birthMonth')::smallint, (facts->>'birthDay')::smallint, facts->>'note',
              (facts->>'news')::boolean, nullif(facts->>'newsOn', '')::date, facts->>'newsHow', given->>'words',
              given->>'sortName', at_time)
      returning id into one;
    end if;
    if facts->'tags' <> '[]' then
      insert into customer_tag (customer_id, tag)
      select one, tag from jsonb_array_elements_text(facts->'tags') as tag on conflict do nothing;
    end if;
    if facts->'groups' <> '[]' then
      insert into customer_membership (customer_id, group_id)
      select one, id from customer_group where facts->'groups' ? name and spent is null on conflict do nothing;
    end if;
    if facts->'addresses' <> '[]' then
      insert into customer_address (customer_id, position, recipient, street, postcode, city)
      select one, place - 1, address->>'recipient', address->>'street', address->>'postcode', address->>'city'
      from jsonb_array_elements(facts->'addresses') with ordinality as listed (address, place);
    end if;
    if given->'cards' <> '[]' then
      insert into customer_card (code, customer_id, added_at, added_by)
      select code, one, at_time, by_staff from jsonb_array_elements_text(given->'cards') as code;
    end if;
    if given->'changes' <> '[]' then
      insert into customer_change (customer_id, at, staff_id, what, was, became)
      select one, at_time, by_staff, change->>'what', change->>'was', change->>'became'
      from jsonb_array_elements(given->'changes') as change;
    end if;
    ids := ids || one;
  end loop;
  return ids;
end $$;
