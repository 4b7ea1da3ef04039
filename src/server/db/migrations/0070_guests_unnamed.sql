-- That guests have no name yet is told by a line of the plan, which says when and what: it was a letter with a time of its own.
insert into message_lines (id, event_id, position, name, moment, offset_days, offset_minutes, audience, channel, late, working_days, household, narrowed, off,
    subject, preview, body, formatted, french_of, added_at)
  select gen_random_uuid(), e.id, coalesce((select max(position) + 1 from message_lines l where l.event_id = e.id), 0), 'Guests still to name', 'guests unnamed',
    -3, 0, 'orders', 'email', 'skip', false, false, '[]', false,
    coalesce(t.said -> 'subject', '{"en": "Who comes with you? {{event}}", "fr": "Qui vient avec vous ? {{event}}"}'),
    coalesce(t.said -> 'preview', '{"en": ""}'),
    coalesce(t.said -> 'body', jsonb_build_object(
      'en', E'Hello {{name}},\n\nWe still do not know who sits on your seats for {{event}} ({{when}}): to be named: {{unnamed}}. Name them until {{named_until}}, or send each guest a link to do it themselves.\n\nYour booking: {{manage_link}}\n\n{{organization}}',
      'fr', E'Bonjour {{name}},\n\nNous ne savons pas encore qui occupera vos places pour {{event}} ({{when}}) : à nommer : {{unnamed}}. Nommez vos invités avant le {{named_until}}, ou envoyez à chacun un lien pour le faire.\n\nVotre réservation : {{manage_link}}\n\n{{organization}}')),
    coalesce(t.said -> 'formatted', '{"en": null, "fr": null}'), coalesce(t.said ->> 'frenchOf', ''), null
  from events e left join lateral (
    -- What the organization wrote in it, with what its fields are called in a line.
    select replace(replace(said::text, '{{count}}', '{{unnamed}}'), '{{until}}', '{{named_until}}')::jsonb as said from letter_texts
      where kind = 'guests missing' order by version desc limit 1) t on true
  where e.state in ('draft', 'in clearance', 'cleared', 'open', 'closed');

-- Who was asked already is not asked again: what was sent is of the line now.
update messages m set line_id = l.id, recipient_key = split_part(m.recipient_key, ':', 2)
  from message_lines l where m.kind = 'guests missing' and m.line_id is null and l.event_id = m.event_id and l.moment = 'guests unnamed' and l.removed_at is null
    and m.id = (select n.id from messages n where n.event_id = m.event_id and n.kind = 'guests missing'
      and split_part(n.recipient_key, ':', 2) = split_part(m.recipient_key, ':', 2) order by n.created_at desc, n.id limit 1);
update messages set kind = 'guests unnamed' where kind = 'guests missing';
delete from letter_texts where kind = 'guests missing';
update change_rows set before = before - 'names_chased_at', after = after - 'names_chased_at' where of = 'orders';
alter table orders drop column names_chased_at;
