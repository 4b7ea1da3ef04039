-- One clearance can cover the dates of a series that are alike: each gets its steps as they were decided, and keeps which one it was.
alter table clearances add covers_series boolean not null default false, add covered_by uuid references clearances (id) on delete set null;
create index clearances_covered on clearances (covered_by) where covered_by is not null;
