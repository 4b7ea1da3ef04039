-- Logos of the organization and of its units, and a picture of each place.
alter table organization add logo_id uuid references pictures (id);
alter table units add logo_id uuid references pictures (id);
alter table venues add picture_id uuid references pictures (id);
