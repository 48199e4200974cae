-- What customers and goods are found by: sets of words, of which some word begins with each that is looked for.
create function word_set(words text) returns tsvector language sql immutable strict parallel safe as $$
  select array_to_tsvector(array_remove(string_to_array(words, ' '), ''))
$$;
create index customer_words on customer using gin (word_set(words));
create index item_words on item using gin (word_set(words));

-- Who is in a group is asked for by the group.
create index customer_membership_group on customer_membership (group_id);
