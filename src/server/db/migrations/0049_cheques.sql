-- Cheques come in beside cash and transfers.
alter table payments drop constraint payments_method_check;
alter table payments add check (method in ('card', 'cash', 'cheque', 'transfer', 'waived'));
