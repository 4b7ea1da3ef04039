-- What goes back of a seat that is given up, by days before; what was kept is a line of its own, written when the seat was given up.
alter table events add refunds jsonb not null default '[]';
alter table order_lines drop constraint order_lines_kind_check, drop constraint order_lines_check;
alter table order_lines
  add constraint order_lines_kind_check check (kind in ('seats', 'gift', 'extra', 'kept')),
  add constraint order_lines_check check ((kind = 'seats') = (offer_id is not null) and (kind = 'extra') = (extra_id is not null)
    and (kind in ('gift', 'kept')) = (unit_number is null));
