-- By which making the keys of all contacts were made: a start looks through them only when they are made otherwise since.
alter table matching_model add column keys_version int not null default 0;
