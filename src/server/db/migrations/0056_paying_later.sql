-- All of a price can be paid later; by when what is owed has to be paid, and who is reminded of it.
alter table offers drop constraint offers_pricing_check;
alter table offers add check (pricing in ('fixed', 'pay what you can', 'deposit', 'later'));
alter table events add column balance_days int not null default 7 check (balance_days between 0 and 365);
alter table message_steps drop constraint message_steps_kind_check, drop constraint message_steps_moment_check;
alter table message_steps add check (kind in ('confirmation', 'balance', 'reminder', 'waiver', 'shift', 'survey')),
  add check (moment in ('registration made', 'start', 'end', 'waiver missing', 'balance due', 'shift start'));
insert into message_steps (id, event_id, position, name, kind, moment, offset_days, audience, subject, body)
  select gen_random_uuid(), e.id, (select coalesce(max(position), -1) from message_steps where event_id = e.id) + s.at, s.name, 'balance', 'balance due', s.days, 'orders', s.subject, s.body
  from events e cross join (values
  (1, 'Still to pay', -5,
    '{"en":"Still to pay: {{event}}","fr":"Reste à payer : {{event}}"}'::jsonb,
    '{"en":"Hello {{name}},\n\n{{owed}} is still to be paid for {{event}} ({{when}}), until {{owed_until}}.\n\nPay by card, or see your booking: {{manage_link}}\n\nIf you have sent it another way, thank you: there is nothing to do.\n\n{{organization}}","fr":"Bonjour {{name}},\n\nIl reste {{owed}} à payer pour {{event}} ({{when}}), avant le {{owed_until}}.\n\nPayer par carte, ou voir votre réservation : {{manage_link}}\n\nSi vous avez déjà payé autrement, merci : il n''y a rien à faire.\n\n{{organization}}"}'::jsonb),
  (2, 'Payment overdue', 1,
    '{"en":"Payment overdue: {{event}}","fr":"Paiement en retard : {{event}}"}'::jsonb,
    '{"en":"Hello {{name}},\n\n{{owed}} for {{event}} ({{when}}) was to be paid until {{owed_until}}. Please pay now, or tell us if you cannot come.\n\nPay by card, or give your seats up: {{manage_link}}\n\n{{organization}}","fr":"Bonjour {{name}},\n\n{{owed}} pour {{event}} ({{when}}) devait être payé avant le {{owed_until}}. Veuillez payer maintenant, ou nous dire si vous ne pouvez pas venir.\n\nPayer par carte, ou rendre vos places : {{manage_link}}\n\n{{organization}}"}'::jsonb)) as s (at, name, days, subject, body)
  where e.state not in ('wrapped', 'called off', 'shelved') and exists (select 1 from message_steps where event_id = e.id);
