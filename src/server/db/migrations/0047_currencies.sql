-- What an event is paid in; where it does not say, that of the organization. What was agreed and what moved keep what it was in,
-- and money that moves for an order is in the order's.
-- XXX is the code for no currency: nothing was agreed before an organization was set up.
alter table events add column currency text check (currency ~ '^[A-Z]{3}$');

alter table orders add column currency text check (currency ~ '^[A-Z]{3}$');
update orders set currency = coalesce((select currency from organization), 'XXX');
alter table orders alter column currency set not null, add unique (id, currency);

alter table payments add column currency text check (currency ~ '^[A-Z]{3}$');
update payments set currency = coalesce((select currency from organization), 'XXX');
alter table payments alter column currency set not null, drop constraint payments_order_id_fkey,
  add foreign key (order_id, currency) references orders (id, currency);

alter table donations add column currency text check (currency ~ '^[A-Z]{3}$');
update donations set currency = coalesce((select currency from organization), 'XXX');
alter table donations alter column currency set not null, drop constraint donations_order_id_fkey,
  add foreign key (order_id, currency) references orders (id, currency);

drop trigger payments_kept on payments;
create trigger payments_kept before delete or update of amount, currency, kind, method, at, order_id, event_id, attempt_id on payments
  for each row execute function money_is_kept();
drop trigger donations_kept on donations;
create trigger donations_kept before delete or update of amount, currency, at, fund_id, order_id, event_id on donations
  for each row execute function money_is_kept();
