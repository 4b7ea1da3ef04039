-- What of a copy without a date hangs on one: the times and shifts of what it was copied from, until it has its own.
alter table events add column waits jsonb;

-- What a copy left behind is kept as a reason; what was written before keeps its words.
update events set left_behind = (
  select jsonb_agg(jsonb_build_object('code', 'as written', 'params', jsonb_build_object('words', words)) order by place)
  from jsonb_array_elements_text(left_behind) with ordinality as l(words, place))
where left_behind <> '[]';
