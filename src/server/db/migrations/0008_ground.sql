-- Who of several processes does work that one may do at a time, until when.
create table leases (
  name text primary key,
  holder uuid not null,
  until timestamptz not null
);

-- Nothing stands in it: transactions of a server take a lock on it, beside each other or alone.
create table turnstile ();

-- What the secret that links are made from leaves behind, so that a process with another secret is refused.
create table secret_mark (
  id int primary key default 1 check (id = 1),
  mark text not null
);
