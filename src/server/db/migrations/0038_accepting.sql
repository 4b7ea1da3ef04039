-- Where the organizer accepts people, somebody who asked may be asked something back before it is decided, and answers by their link.
create table order_questions (
  id uuid primary key,
  order_id uuid not null references orders (id) on delete cascade,
  words text not null check (words <> ''),
  asked_at timestamptz not null,
  asked_by text not null,
  answer text,
  answered_at timestamptz
);
create index order_questions_order on order_questions (order_id, asked_at);
alter table orders add asked_at timestamptz;
create index orders_asked on orders (event_id, asked_at) where asked_at is not null;
update events set admission = admission || '{"accepts": false}';
alter table events alter admission set
  default '{"ways": [{"kind": "everyone", "unitIds": [], "opensLocal": null, "closesLocal": null}], "noReply": false, "accepts": false}';
