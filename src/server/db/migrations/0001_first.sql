-- The organization, its staff and how the application is run.
create table organization (
  id int primary key default 1 check (id = 1),
  name text not null check (name <> ''),
  zone text not null,
  currency text not null check (currency ~ '^[A-Z]{3}$'),
  country text not null check (country ~ '^[A-Z]{2}$'),
  languages text[] not null default '{en,fr}',
  age_of_majority int not null default 19 check (age_of_majority between 14 and 25),
  minimum_notice_days int not null default 14 check (minimum_notice_days between 0 and 365),
  holidays date[] not null default '{}',
  sender text not null,
  about text not null default '',
  created_at timestamptz not null
);

-- Present only where the clock can be moved (the demonstration). moving_to is set while a move is under way.
create table demo_clock (
  id int primary key default 1 check (id = 1),
  stands_at timestamptz not null,
  moving_to timestamptz,
  check (moving_to is null or moving_to >= stands_at)
);

create table contacts (
  id uuid primary key,
  given_name text not null default '',
  family_name text not null default '',
  birth_date date,
  language text not null default 'en',
  street text,
  postal_code text,
  do_not_contact boolean not null default false,
  deceased_on date,
  dietary text,
  household_id uuid,
  name_key text not null default '',
  search_text text not null default '',
  source text not null,
  import_id uuid,
  created_at timestamptz not null,
  updated_at timestamptz not null,
  check (given_name <> '' or family_name <> '')
);
create table households (id uuid primary key, name text not null, created_at timestamptz not null);
alter table contacts add foreign key (household_id) references households (id);
create index contacts_search on contacts using gin (search_text gin_trgm_ops);
create index contacts_name_key on contacts (name_key);
create index contacts_listed on contacts (family_name, given_name, id);

create table contact_emails (
  id uuid primary key,
  contact_id uuid not null references contacts (id) on delete cascade,
  email text not null,
  email_key text not null,
  position int not null default 0,
  bounced_at timestamptz,
  unique (contact_id, email_key)
);
create index contact_emails_key on contact_emails (email_key);
create table contact_phones (
  id uuid primary key,
  contact_id uuid not null references contacts (id) on delete cascade,
  phone text not null check (phone ~ '^\+[0-9]{6,15}$'),
  position int not null default 0,
  unique (contact_id, phone)
);
create index contact_phones_phone on contact_phones (phone);

-- Guardian: from_contact looks after to_contact. Emergency: other_name (and phone) is to be called about to_contact.
create table relationships (
  id uuid primary key,
  kind text not null check (kind in ('guardian', 'emergency')),
  from_contact uuid references contacts (id) on delete cascade,
  to_contact uuid not null references contacts (id) on delete cascade,
  other_name text,
  other_phone text,
  created_at timestamptz not null,
  check (from_contact is not null or other_name is not null),
  check (from_contact is distinct from to_contact)
);
create unique index relationships_guardian on relationships (from_contact, to_contact) where kind = 'guardian';
create index relationships_to on relationships (to_contact);

create table units (
  id uuid primary key,
  name text not null unique,
  about text not null default ''
);
create table memberships (
  id uuid primary key,
  contact_id uuid not null references contacts (id) on delete cascade,
  number text,
  level text,
  since text,
  created_at timestamptz not null
);
create index memberships_contact on memberships (contact_id);

create table consents (
  id uuid primary key,
  contact_id uuid not null references contacts (id) on delete cascade,
  topic text not null,
  granted boolean not null,
  source text not null,
  at timestamptz not null
);
create index consents_contact on consents (contact_id, topic, at desc);

create table staff (
  id uuid primary key,
  contact_id uuid references contacts (id),
  name text not null,
  email text not null,
  email_key text not null unique,
  password_hash text not null,
  roles text[] not null,
  approves text[] not null default '{}',
  unit_id uuid references units (id),
  resting boolean not null default false,
  created_at timestamptz not null
);
create table staff_invitations (
  id uuid primary key,
  token_hash text not null unique,
  name text not null,
  email text not null,
  roles text[] not null,
  approves text[] not null default '{}',
  unit_id uuid references units (id),
  invited_by uuid not null references staff (id),
  created_at timestamptz not null,
  expires_at timestamptz not null,
  accepted_at timestamptz
);
create table sessions (
  token_hash text primary key,
  staff_id uuid not null references staff (id) on delete cascade,
  created_at timestamptz not null,
  expires_at timestamptz not null
);

create table audit (
  id uuid primary key,
  at timestamptz not null,
  actor text not null,
  staff_id uuid references staff (id),
  action text not null,
  subject_kind text not null,
  subject_id uuid,
  detail jsonb not null default '{}',
  request_id text
);
create index audit_subject on audit (subject_kind, subject_id, at);

create table idempotency (
  scope text not null,
  key text not null,
  body_hash text not null,
  status int not null,
  response jsonb,
  at timestamptz not null,
  primary key (scope, key)
);

-- Unguessable public links: only the hash of the token is kept.
create table links (
  token_hash text primary key,
  kind text not null check (kind in ('manage', 'crew', 'survey', 'preview')),
  subject_id uuid not null,
  created_at timestamptz not null,
  revoked_at timestamptz,
  unique (kind, subject_id)
);

create table imports (
  id uuid primary key,
  file_name text not null,
  file_hash text not null,
  state text not null check (state in ('checked', 'applied', 'undone')),
  encoding text not null,
  delimiter text not null,
  heading_line int not null,
  headings jsonb not null,
  mapping jsonb not null,
  counts jsonb not null,
  created_by uuid references staff (id),
  created_at timestamptz not null,
  applied_at timestamptz,
  undone_at timestamptz
);
create table import_rows (
  import_id uuid not null references imports (id) on delete cascade,
  line int not null,
  cells jsonb not null,
  verdict text not null check (verdict in ('new', 'known', 'look', 'rejected')),
  reasons jsonb not null,
  person jsonb,
  contact_id uuid,
  same_as_line int,
  household_of uuid,
  -- What applying did to the contact, so that it can be taken back.
  applied jsonb,
  primary key (import_id, line)
);
create index import_rows_contact on import_rows (contact_id) where applied is not null;

-- Events and what is planned for them.
create table venues (
  id uuid primary key,
  name text not null unique,
  address text not null,
  capacity int check (capacity > 0),
  latitude double precision,
  longitude double precision,
  access_notes text not null default ''
);

create table waivers (
  id uuid primary key,
  title text not null,
  version int not null check (version > 0),
  audience text not null check (audience in ('everyone', 'minors', 'adults')),
  clauses jsonb not null,
  created_at timestamptz not null,
  unique (title, version)
);

create table events (
  id uuid primary key,
  slug text unique,
  public_title text not null default '',
  team_title text not null default '',
  summary text not null default '',
  description text not null default '',
  category text not null default '',
  draws text[] not null default '{}',
  unit_id uuid references units (id),
  lead_id uuid references staff (id),
  visibility text not null default 'everyone' check (visibility in ('everyone', 'link')),
  listed boolean not null default true,
  state text not null default 'draft'
    check (state in ('draft', 'in clearance', 'cleared', 'open', 'closed', 'wrapped', 'called off', 'shelved')),
  is_template boolean not null default false,
  starts_local timestamp,
  ends_local timestamp,
  doors_local timestamp,
  zone text not null,
  starts_at timestamptz,
  ends_at timestamptz,
  doors_at timestamptz,
  registration_closes_at timestamptz,
  -- When absences were worked out, once, after the end.
  absences_at timestamptz,
  venue_id uuid references venues (id),
  capacity int check (capacity > 0 and capacity <= 100000),
  flags text[] not null default '{}',
  waiver_id uuid references waivers (id),
  copied_from uuid references events (id),
  copied_from_title text,
  left_behind jsonb not null default '[]',
  version int not null default 1,
  created_by uuid references staff (id),
  created_at timestamptz not null,
  updated_at timestamptz not null,
  check ((starts_local is null) = (starts_at is null)),
  check (ends_at is null or ends_at > starts_at)
);
create index events_starts on events (starts_at);
create table event_states (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  state text not null,
  at timestamptz not null,
  actor text not null,
  words text not null default ''
);
create index event_states_event on event_states (event_id, at);

create table offers (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  position int not null,
  name text not null check (name <> ''),
  about text not null default '',
  price bigint not null check (price >= 0),
  quantity int check (quantity > 0),
  seats_per_unit int not null default 1 check (seats_per_unit between 1 and 50),
  most_per_order int not null default 10 check (most_per_order between 1 and 100)
);
create index offers_event on offers (event_id, position);
create table questions (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  position int not null,
  offer_id uuid references offers (id) on delete cascade,
  scope text not null check (scope in ('order', 'attendee')),
  kind text not null check (kind in ('text', 'long text', 'yes or no', 'one of', 'several of')),
  prompt jsonb not null,
  required boolean not null default false,
  choices text[] not null default '{}',
  at_door boolean not null default false
);
create index questions_event on questions (event_id, position);

-- Clearance.
create table clearance_rules (
  id uuid primary key,
  step text not null,
  approves text not null,
  any_of text[] not null,
  headcount_from int,
  working_days int not null check (working_days between 0 and 60),
  step_order int not null default 1,
  asks text not null
);
create table clearances (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  submitted_at timestamptz not null,
  submitted_by uuid references staff (id),
  late_by_days int not null default 0,
  current boolean not null default true
);
create unique index clearances_current on clearances (event_id) where current;
create table clearance_steps (
  id uuid primary key,
  clearance_id uuid not null references clearances (id) on delete cascade,
  step text not null,
  approves text not null,
  step_order int not null,
  asks text not null,
  because jsonb not null,
  due_on date not null,
  state text not null check (state in
    ('waiting', 'with approver', 'cleared', 'cleared with conditions', 'sent back', 'refused', 'reopened')),
  decided_at timestamptz,
  decided_by uuid references staff (id),
  words text not null default ''
);
create index clearance_steps_clearance on clearance_steps (clearance_id, step_order);

-- Registration and money.
create table funds (id uuid primary key, name text not null unique, about text not null default '');
create sequence order_number start 1001;
create table orders (
  id uuid primary key,
  number int not null unique default nextval('order_number'),
  event_id uuid not null references events (id),
  buyer_contact_id uuid references contacts (id),
  buyer_given text not null,
  buyer_family text not null,
  buyer_email text,
  buyer_phone text,
  language text not null default 'en',
  due bigint not null check (due >= 0),
  donation bigint not null default 0 check (donation >= 0),
  donation_fund uuid references funds (id),
  donation_anonymous boolean not null default false,
  lines jsonb not null,
  seats int not null check (seats > 0),
  state text not null check (state in ('open', 'paid', 'part paid', 'owed', 'refunded', 'part refunded', 'void')),
  placed_at timestamptz not null,
  held_until timestamptz,
  waitlisted_at timestamptz,
  offered_until timestamptz
);
create index orders_event on orders (event_id, placed_at);
create index orders_buyer on orders (buyer_contact_id);
create index orders_held on orders (held_until) where held_until is not null;
create index orders_offered on orders (offered_until) where offered_until is not null;
create index orders_waiting on orders (event_id, waitlisted_at) where waitlisted_at is not null;

create table registrations (
  id uuid primary key,
  order_id uuid not null references orders (id),
  event_id uuid not null references events (id),
  offer_id uuid not null references offers (id),
  unit_number int not null,
  seat_number int not null,
  contact_id uuid references contacts (id),
  given_name text not null default '',
  family_name text not null default '',
  birth_date date,
  said_minor boolean not null default false,
  state text not null check (state in
    ('asked', 'held', 'waitlisted', 'offered', 'confirmed', 'withdrawn', 'declined', 'lapsed')),
  pass_code text unique,
  link_reasons jsonb not null default '[]',
  walk_in boolean not null default false,
  created_at timestamptz not null,
  confirmed_at timestamptz,
  ended_at timestamptz,
  unique (order_id, seat_number)
);
create index registrations_event on registrations (event_id, offer_id, state);
create index registrations_contact on registrations (contact_id);
create table registration_states (
  id uuid primary key,
  registration_id uuid not null references registrations (id) on delete cascade,
  state text not null,
  at timestamptz not null,
  reason text not null
);
create index registration_states_registration on registration_states (registration_id, at);
create table answers (
  id uuid primary key,
  order_id uuid not null references orders (id) on delete cascade,
  registration_id uuid references registrations (id) on delete cascade,
  question_id uuid not null references questions (id),
  value jsonb not null
);
create index answers_order on answers (order_id);

create table payment_attempts (
  id uuid primary key,
  order_id uuid not null references orders (id),
  amount bigint not null check (amount > 0),
  state text not null check (state in ('asked', 'succeeded', 'declined', 'unknown')),
  asked_at timestamptz not null,
  answered_at timestamptz,
  processor_ref text,
  words text not null default ''
);
-- One question to the processor at a time: no second charge while the first has no answer.
create unique index payment_attempts_open on payment_attempts (order_id) where state in ('asked', 'unknown');
create table payments (
  id uuid primary key,
  order_id uuid references orders (id),
  event_id uuid references events (id),
  contact_id uuid references contacts (id),
  attempt_id uuid references payment_attempts (id),
  kind text not null check (kind in ('seats', 'donation')),
  method text not null check (method in ('card', 'cash', 'transfer', 'waived')),
  amount bigint not null check (amount <> 0),
  reason text not null,
  at timestamptz not null
);
create index payments_order on payments (order_id);
create index payments_event on payments (event_id);
create unique index payments_attempt on payments (attempt_id, kind) where attempt_id is not null and amount > 0;
create function money_is_kept() returns trigger language plpgsql as $$
begin
  raise exception 'rows of payments and donations are only added, never changed';
end $$;
create trigger payments_kept before delete or update of amount, kind, method, at, order_id, event_id, attempt_id on payments for each row execute function money_is_kept();
create table donations (
  id uuid primary key,
  contact_id uuid references contacts (id),
  order_id uuid references orders (id),
  event_id uuid references events (id),
  payment_id uuid references payments (id),
  fund_id uuid not null references funds (id),
  amount bigint not null check (amount > 0),
  anonymous boolean not null default false,
  at timestamptz not null
);
create index donations_contact on donations (contact_id);
create trigger donations_kept before delete or update of amount, at, fund_id, order_id, event_id on donations for each row execute function money_is_kept();

-- Signatures keep the text that was signed.
create table signatures (
  id uuid primary key,
  waiver_id uuid not null references waivers (id),
  event_id uuid not null references events (id),
  registration_id uuid not null references registrations (id),
  contact_id uuid references contacts (id),
  relation text not null check (relation in ('self', 'guardian')),
  typed_name text not null,
  signed_text text not null,
  sha256 text not null check (sha256 ~ '^[0-9a-f]{64}$'),
  state text not null default 'valid' check (state in ('valid', 'expired', 'superseded', 'revoked')),
  at timestamptz not null
);
create unique index signatures_valid on signatures (registration_id, waiver_id) where state = 'valid';
create index signatures_contact on signatures (contact_id);

-- Crew.
create table shifts (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  role text not null check (role <> ''),
  place text not null default '',
  starts_local timestamp not null,
  ends_local timestamp not null,
  starts_at timestamptz not null,
  ends_at timestamptz not null,
  needed int not null check (needed between 1 and 200),
  public_sign_up boolean not null default true,
  check (ends_at > starts_at)
);
create index shifts_event on shifts (event_id, starts_at);
create table assignments (
  id uuid primary key,
  shift_id uuid not null references shifts (id) on delete cascade,
  contact_id uuid not null references contacts (id),
  state text not null check (state in ('proposed', 'agreed', 'dropped', 'served', 'missed')),
  source text not null check (source in ('staff', 'public')),
  override_reason text,
  clashes jsonb not null default '[]',
  made_at timestamptz not null,
  hours numeric(6, 2)
);
create unique index assignments_live on assignments (shift_id, contact_id) where state <> 'dropped';
create index assignments_contact on assignments (contact_id);

-- Messages: planned ahead as rows.
create table message_steps (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  position int not null,
  name text not null,
  kind text not null check (kind in ('confirmation', 'reminder', 'waiver', 'shift', 'survey')),
  moment text not null check (moment in ('registration made', 'start', 'end', 'waiver missing', 'shift start')),
  offset_days int not null default 0,
  offset_minutes int not null default 0,
  audience text not null check (audience in ('orders', 'attendees', 'crew')),
  subject jsonb not null,
  body jsonb not null
);
create index message_steps_event on message_steps (event_id, position);
create table messages (
  id uuid primary key,
  event_id uuid references events (id) on delete cascade,
  step_id uuid references message_steps (id) on delete cascade,
  -- What the message is about: unique within a step, so that nothing is ever planned twice.
  recipient_key text not null,
  kind text not null,
  contact_id uuid references contacts (id),
  name text not null,
  address text,
  language text not null default 'en',
  state text not null check (state in ('planned', 'due', 'sent', 'held back', 'failed', 'bounced')),
  reason text not null,
  planned_for timestamptz,
  next_try_at timestamptz,
  attempts int not null default 0,
  why_not text,
  subject text,
  body text,
  sent_at timestamptz,
  created_at timestamptz not null,
  unique nulls not distinct (event_id, step_id, recipient_key)
);
create index messages_due on messages (next_try_at) where state in ('planned', 'due', 'failed');
create index messages_event on messages (event_id, step_id, state);
create index messages_contact on messages (contact_id);

-- Doors: whether somebody came is a fact of its own.
create table attendance (
  registration_id uuid primary key references registrations (id),
  event_id uuid not null references events (id),
  contact_id uuid references contacts (id),
  state text not null check (state in ('expected', 'arrived', 'left', 'missed')),
  arrived_at timestamptz,
  left_at timestamptz
);
create index attendance_event on attendance (event_id, state);
create index attendance_contact on attendance (contact_id);
create table attendance_marks (
  id uuid primary key,
  registration_id uuid not null references registrations (id),
  state text not null,
  at timestamptz not null,
  staff_id uuid references staff (id),
  actor text not null
);
create index attendance_marks_registration on attendance_marks (registration_id, at);

-- Surveys. Anonymous answers carry nothing that leads to a person: no contact, no link, no order of arrival.
create table surveys (
  id uuid primary key,
  event_id uuid not null unique references events (id) on delete cascade,
  title jsonb not null,
  anonymous boolean not null default false,
  questions jsonb not null
);
create table survey_asks (
  id uuid primary key,
  survey_id uuid not null references surveys (id) on delete cascade,
  contact_id uuid not null references contacts (id),
  answered boolean not null default false,
  unique (survey_id, contact_id)
);
create table survey_responses (
  id uuid primary key,
  survey_id uuid not null references surveys (id) on delete cascade,
  contact_id uuid references contacts (id),
  answers jsonb not null,
  answered_on date not null
);
create index survey_responses_survey on survey_responses (survey_id);
create index survey_responses_contact on survey_responses (contact_id);

-- Stand-ins for outside services: what they were asked and how they are told to behave.
create table standin_behaviour (service text primary key, mode text not null, remaining int);
create table standin_mail (
  key text primary key,
  address text not null,
  subject text not null,
  body text not null,
  accepted_at timestamptz not null
);
create table standin_charges (
  key text primary key,
  ref text not null unique,
  amount bigint not null,
  outcome text not null check (outcome in ('succeeded', 'declined')),
  words text not null,
  answers_left int not null,
  answer_at timestamptz,
  charged_at timestamptz not null
);
create index standin_charges_due on standin_charges (answer_at) where answers_left > 0;
