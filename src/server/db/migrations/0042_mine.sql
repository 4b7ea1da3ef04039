-- Whoever is signed in has a calendar of their own to subscribe to, by a link that can be stopped.
alter table links drop constraint links_kind_check;
alter table links add check (kind in ('manage', 'crew', 'survey', 'preview', 'own', 'seat', 'feed'));
