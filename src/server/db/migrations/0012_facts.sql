-- Why a step of a clearance is needed is kept as codes, as core knows them.
update clearance_steps set because = (
  select coalesce(jsonb_agg(case words
      when 'people under age take part' then '{"code": "minors"}'::jsonb
      when 'food is served' then '{"code": "food"}'
      when 'alcohol is served' then '{"code": "alcohol"}'
      when 'money is taken' then '{"code": "money"}'
      when 'boats or vehicles are used' then '{"code": "boats"}'
      when 'power tools are used' then '{"code": "tools"}'
      when 'it is away from our own premises' then '{"code": "off-site"}'
      when 'outside speakers' then '{"code": "speakers"}'
      else jsonb_build_object('code', 'headcount reached', 'params', jsonb_build_object(
        'people', (regexp_match(words, '^(\d+) people'))[1]::int,
        'from', (regexp_match(words, 'starts at (\d+)$'))[1]::int))
    end order by place), '[]')
  from jsonb_array_elements_text(because) with ordinality as b(words, place));
