-- The Desk asks what was given since yesterday.
create index donations_at on donations (at);
