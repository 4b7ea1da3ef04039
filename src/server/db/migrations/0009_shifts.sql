-- A shift that somebody was on is retired, and not deleted: who was dropped from it, and why they were on it, stays written.
alter table shifts add column removed_at timestamptz;
alter table assignments drop constraint assignments_shift_id_fkey;
alter table assignments add constraint assignments_shift_id_fkey foreign key (shift_id) references shifts (id);
