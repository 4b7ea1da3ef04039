-- Changes of several events at once are told and taken back as one: part_of is the one they came with, and its rows are theirs too.
-- What was changed with a series before this cannot be taken back.
alter table changes add part_of uuid references changes (id) on delete cascade;
update changes set settles_at = null where of_series;
alter table changes drop of_series;
create index changes_part on changes (part_of) where part_of is not null;
do $$
declare
  name text;
begin
  foreach name in array array['event_team', 'questions', 'message_steps', 'surveys', 'speakers', 'sponsors'] loop
    execute format('create trigger kept_of_changes after insert or update or delete on %I for each row
      when (current_setting(''acolyte.change'', true) <> '''') execute function keep_row()', name);
  end loop;
end $$;
create trigger kept_of_changes after insert or update or delete on series for each row
  when (current_setting('acolyte.change', true) <> '') execute function keep_row('version', 'updated_at', 'next_at');
