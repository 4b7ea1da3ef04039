-- Reasons are kept as codes with what their words are filled in with; those from before keep their words.
create function pg_temp.written(words text) returns jsonb language sql immutable as
  $$ select jsonb_build_object('code', 'as written', 'params', jsonb_build_object('words', words)) $$;

create function pg_temp.each_written(reasons jsonb) returns jsonb language sql immutable as
  $$ select coalesce(jsonb_agg(pg_temp.written(words) order by place), '[]')
     from jsonb_array_elements_text(reasons) with ordinality as r(words, place) $$;

update registrations set link_reasons = pg_temp.each_written(link_reasons) where link_reasons <> '[]';
update import_rows set reasons = pg_temp.each_written(reasons) where reasons <> '[]';
update import_rows set changes = (
  select jsonb_agg(case when jsonb_typeof(change->'why') = 'string'
    then change || jsonb_build_object('why', pg_temp.written(change->>'why')) else change end order by place)
  from jsonb_array_elements(changes) with ordinality as c(change, place))
where changes <> '[]';

alter table messages alter column why_not type jsonb using pg_temp.written(why_not);
update messages set why_not = null where why_not->'params'->>'words' is null;

alter table pairs alter column held type jsonb using pg_temp.written(held);
update pairs set held = null where held->'params'->>'words' is null;
update pairs set findings = (
  select jsonb_agg((finding - 'words') || jsonb_build_object('reason', pg_temp.written(finding->>'words')) order by place)
  from jsonb_array_elements(findings) with ordinality as f(finding, place))
where findings <> '[]';

drop function pg_temp.each_written(jsonb);
drop function pg_temp.written(text);
