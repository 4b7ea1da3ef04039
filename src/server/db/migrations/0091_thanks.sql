-- The event whose people a mailing thanks.
alter table mailings add column thanks_of uuid references events (id) on delete set null;
create index mailings_thanks on mailings (thanks_of) where thanks_of is not null;
