-- A text as it is compared: lower case, in plain letters; for the letters of Europe the same as `fold` in core/words.ts.
create or replace function folded(words text) returns text language plpgsql immutable strict parallel safe as $$
declare
  plain text := words;
  two text[];
begin
  if words !~ '[^ -~]' then
    return lower(words);
  end if;
  plain := regexp_replace(normalize(plain, nfd), '[\u0300-\u036f]', '', 'g');
  foreach two slice 1 in array array[['Æ', 'ae'], ['æ', 'ae'], ['Œ', 'oe'], ['œ', 'oe'], ['Þ', 'th'], ['þ', 'th'],
    ['ß', 'ss'], ['ẞ', 'ss'], ['Ŋ', 'ng'], ['ŋ', 'ng'], ['Ĳ', 'ij'], ['ĳ', 'ij'], ['ŉ', '''n']] loop
    plain := replace(plain, two[1], two[2]);
  end loop;
  return lower(translate(plain, 'ÐðØøĐđĦħıĸĿŀŁłŦŧſ', 'DdOoDdHhiqLlLlTts'));
end $$;
