-- Who of those waiting comes first, where the usual order is not the one that is wanted.
alter table events add wait_rule text not null default 'first that fits' check (wait_rule in ('first that fits', 'strict order', 'members first'));
