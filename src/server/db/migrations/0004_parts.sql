-- A row of a file may name further people: the second of two in one cell, the guardian of a child.
alter table import_rows add column of_line int;
alter table import_rows add column part text not null default 'own' check (part in ('own', 'partner', 'guardian', 'other guardian'));
create index import_rows_of_line on import_rows (import_id, of_line) where of_line is not null;
-- The order in which rows are shown: everybody right after the line that names them.
create index import_rows_shown on import_rows (import_id, coalesce(of_line, line), line);
