-- What is written about a sale after it: history, only ever added to.
create table sale_note (
  id bigint generated always as identity primary key,
  sale_id uuid not null references sale,
  note text not null check (length(note) between 1 and 500),
  staff_id integer not null references staff,
  at timestamptz not null
);
create index sale_note_sale on sale_note (sale_id);
create trigger sale_note_is_history before update or delete or truncate on sale_note
  for each statement execute function refuse_change();

-- Notes and addresses are found by their words; sales without either cost nothing.
create index sale_note_words on sale_note using gin (to_tsvector('simple', note));
create index sale_words on sale using gin (to_tsvector('simple', note)) where note <> '';
create index sale_line_words on sale_line using gin (to_tsvector('simple', note)) where note <> '';
create index outbox_recipient on outbox (lower(recipient) text_pattern_ops) where sale_id is not null;
