-- A waiver stands by itself and has versions; events say of whom they ask it; a signature is for a person and holds for a time.
create table waiver_versions (
  id uuid primary key,
  waiver_id uuid not null references waivers (id),
  version int not null check (version > 0),
  -- Title, clauses and questions, in English and perhaps in French.
  text jsonb not null,
  -- Whether it asks those again who signed one before it.
  material boolean not null,
  made_at timestamptz not null,
  made_by text not null,
  unique (waiver_id, version)
);

-- Of each title the newest row is the waiver; all of them are its versions, under the ids they had.
create temporary table newest as
  select id, first_value(id) over (partition by title order by version desc) as waiver_id from waivers;
insert into waiver_versions (id, waiver_id, version, text, material, made_at, made_by)
  select w.id, n.waiver_id, w.version,
    jsonb_build_object('title', jsonb_build_object('en', w.title), 'questions', '[]'::jsonb, 'clauses',
      coalesce((select jsonb_agg(jsonb_build_object('id', c ->> 'id', 'kind', 'agree', 'heading', jsonb_build_object('en', ''),
        'text', jsonb_build_object('en', c ->> 'text')) order by at) from jsonb_array_elements(w.clauses) with ordinality as x (c, at)), '[]')),
    -- Which versions mattered nobody has said: what was signed counts on.
    w.version = 1, w.created_at, ''
  from waivers w join newest n on n.id = w.id;

alter table signatures add column version_id uuid references waiver_versions (id);
update signatures set version_id = waiver_id;
-- Who signed two versions for one seat has the newer one.
update signatures g set state = 'superseded' from newest n where n.id = g.waiver_id and g.state = 'valid' and exists (
  select 1 from signatures o join newest m on m.id = o.waiver_id
  where o.registration_id = g.registration_id and o.state = 'valid' and m.waiver_id = n.waiver_id and (o.at, o.id) > (g.at, g.id));
update signatures g set waiver_id = n.waiver_id from newest n where n.id = g.waiver_id;
alter table signatures alter column version_id set not null;

-- Whom an event asks: that of the event asks everybody with a seat, that of a ticket those who have it.
alter table events add column waivers jsonb not null default '[]';
update events e set waivers = coalesce((
  select jsonb_agg(jsonb_build_object('id', gen_random_uuid(), 'waiverId', r.waiver_id, 'seats', true, 'offerIds', r.offers, 'sessionIds', '[]'::jsonb,
    'answered', null, 'fromAge', null, 'toAge', null, 'crew', false, 'roles', '[]'::jsonb) order by r.offers <> '[]', r.waiver_id)
  from (select n.waiver_id, '[]'::jsonb as offers from newest n where n.id = e.waiver_id
    union all select n.waiver_id, jsonb_agg(f.id order by f.position) from offers f join newest n on n.id = f.waiver_id
      where f.event_id = e.id and f.removed_at is null group by n.waiver_id) r), '[]')
where e.waiver_id is not null or exists (select 1 from offers f where f.event_id = e.id and f.waiver_id is not null);
update plan_changes c set field = 'waivers', before = x.before, after = x.after
from (select p.id, coalesce((select jsonb_agg(r) from (
    select jsonb_build_object('id', p.id, 'waiverId', n.waiver_id, 'seats', true, 'offerIds', '[]'::jsonb, 'sessionIds', '[]'::jsonb, 'answered', null,
      'fromAge', null, 'toAge', null, 'crew', false, 'roles', '[]'::jsonb) as r from newest n where to_jsonb(n.id) = p.before) y), '[]') as before,
  coalesce((select jsonb_agg(r) from (
    select jsonb_build_object('id', p.id, 'waiverId', n.waiver_id, 'seats', true, 'offerIds', '[]'::jsonb, 'sessionIds', '[]'::jsonb, 'answered', null,
      'fromAge', null, 'toAge', null, 'crew', false, 'roles', '[]'::jsonb) as r from newest n where to_jsonb(n.id) = p.after) y), '[]') as after
  from plan_changes p where p.field = 'waiverId') x where x.id = c.id;
update events set own = array_replace(own, 'waiverId', 'waivers') where 'waiverId' = any(own);
-- A change that can still be taken back puts back what there is now.
update change_rows set before = before - 'waiver_id', after = after - 'waiver_id' where of = 'offers';
update change_rows c set before = c.before - 'waiver_id' || jsonb_build_object('waivers', coalesce((
    select jsonb_agg(jsonb_build_object('id', c.row_id, 'waiverId', n.waiver_id, 'seats', true, 'offerIds', '[]'::jsonb, 'sessionIds', '[]'::jsonb,
      'answered', null, 'fromAge', null, 'toAge', null, 'crew', false, 'roles', '[]'::jsonb))
    from newest n where to_jsonb(n.id) = c.before -> 'waiver_id'), '[]')),
  after = c.after - 'waiver_id' || jsonb_build_object('waivers', (select e.waivers from events e where e.id = c.row_id))
  where c.of = 'events' and c.before ? 'waiver_id';
-- Segments ask for the waiver, whichever version was signed.
do $$
declare n record;
begin
  for n in select id, waiver_id from newest where id <> waiver_id loop
    update segments set segment = replace(segment::text, n.id::text, n.waiver_id::text)::jsonb
      where strpos(segment::text, n.id::text) > 0;
  end loop;
end $$;

alter table events drop column waiver_id;
alter table offers drop column waiver_id;
delete from waivers where id in (select id from newest where id <> waiver_id);
drop table newest;
alter table waivers drop column version, drop column clauses,
  add unique (title),
  -- For how long a signature holds: {"for": "event"}, "year", "season" (to a day of the year), "until" (a date).
  add column holds jsonb not null default '{"for": "event"}',
  -- How many guardians sign for a child.
  add column guardians int not null default 1 check (guardians in (1, 2)),
  -- So many days after its time a signature loses what it says about health.
  add column forget_days int not null default 30 check (forget_days between 0 and 3650),
  -- Whether it has a page of its own where anybody signs.
  add column standing boolean not null default false,
  -- The address of that page.
  add column slug text unique,
  -- Nothing more is signed from then on.
  add column closed_at timestamptz;

alter table signatures
  alter column event_id drop not null,
  alter column registration_id drop not null,
  -- The days it holds beside its event; none where it is for its event alone.
  add column holds_from date,
  add column holds_until date,
  -- Since when it is known whose hand it was: until then it counts for its own seat alone.
  add column known_at timestamptz,
  -- Who signed, where that is somebody on record; else the name they typed is all there is.
  add column signer_id uuid references contacts (id),
  add column language text not null default 'en',
  -- Yes and no by clause, where it could be chosen.
  add column chosen jsonb not null default '{}',
  -- What was answered beside: a list of prompt, value and whether it is about health.
  add column answers jsonb not null default '[]',
  add column answers_salt text not null default '',
  add column forget_on date,
  -- What was signed in one go: for oneself and for several children.
  add column act uuid,
  -- Where the copy goes; none where it was signed on a device of the team.
  add column copy_to text,
  -- A drawn signature, as the path of an SVG in a box of 600 by 200.
  add column drawn text,
  add column way text not null default 'link' check (way in ('link', 'page', 'door', 'paper')),
  add column revoked_at timestamptz,
  add column revoked_by text not null default '',
  add column revoked_why text not null default '',
  add check ((holds_from is null) = (holds_until is null));
update signatures set act = id, known_at = at, signer_id = case when relation = 'self' then contact_id end;
alter table signatures alter column act set not null;
drop index signatures_valid;
create unique index signatures_valid on signatures (registration_id, waiver_id, lower(typed_name)) where state = 'valid' and registration_id is not null;
create index signatures_standing on signatures (contact_id, waiver_id) where state = 'valid' and holds_until is not null;
create index signatures_act on signatures (act);
create index signatures_event on signatures (event_id) where event_id is not null;
create index signatures_forget on signatures (forget_on) where forget_on is not null;
create index signatures_waiver on signatures (waiver_id, at);
create index signatures_signer on signatures (signer_id) where signer_id is not null;

-- A signature on paper, as it was scanned.
create table signature_scans (
  signature_id uuid primary key references signatures (id),
  name text not null,
  media_type text not null,
  content bytea not null
);
-- Each copy that was made of a signature, by its hash: whoever has one can ask whether it is ours.
create table signature_copies (
  sha256 text primary key check (sha256 ~ '^[0-9a-f]{64}$'),
  act uuid not null,
  at timestamptz not null
);

-- Signatures in the order they came, each hashed with the one before it.
create table signature_chain (
  number int primary key check (number > 0),
  signature_id uuid not null unique,
  sha256 text not null,
  answers_sha256 text not null default '',
  before text not null,
  hash text not null unique
);
do $$
declare g record; before text := repeat('0', 64); hashed text; n int := 0;
begin
  for g in select id, sha256 from signatures order by at, id loop
    n := n + 1;
    hashed := encode(sha256(convert_to(before || E'\n' || n || E'\n' || g.id || E'\n' || g.sha256 || E'\n', 'UTF8')), 'hex');
    insert into signature_chain values (n, g.id, g.sha256, '', before, hashed);
    before := hashed;
  end loop;
end $$;
create function chain_is_kept() returns trigger language plpgsql as $$
begin
  raise exception 'signatures stay in their chain';
end $$;
create trigger signature_chain_kept before update or delete on signature_chain for each row execute function chain_is_kept();

-- The same link as it stands in a mail, which proves that whoever opens it reads what is sent there.
alter table links add column mailed_hash text unique;
alter table links drop constraint links_kind_check;
alter table links add constraint links_kind_check
  check (kind in ('manage', 'crew', 'survey', 'preview', 'own', 'seat', 'feed', 'invited', 'gift', 'pledge', 'receipt', 'out', 'follow', 'application', 'signed'));
