-- The list of contacts opens in the order of names: read from here it need not sort everybody first.
create index contacts_by_name on contacts (lower(family_name), family_name, given_name, id)
  where merged_into is null and erased_at is null;
