-- These are planned when the first entries are posted, while a table of a few rows is read faster as a whole; later that reads all of it.
alter function entries_posted() set enable_seqscan = off;
alter function posting_has_entries() set enable_seqscan = off;
