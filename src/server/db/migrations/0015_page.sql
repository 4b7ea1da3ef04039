-- More that a page says: questions and answers, buttons, what registrants are told, words of one's own, where else to register.
alter table events
  add column faqs jsonb not null default '[]',
  add column buttons jsonb not null default '[]',
  add column afterwards jsonb not null default '{"en": ""}',
  add column full_words jsonb not null default '{"en": ""}',
  add column register_at text,
  add column search_title text not null default '',
  add column search_text text not null default '';
