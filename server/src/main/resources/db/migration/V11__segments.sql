-- Filters over people that are kept, and tags that were put on or taken off for all of them at once.

create table segment (
  id bigint generated always as identity primary key,
  name text not null unique,
  document text not null,
  changed_at timestamptz not null,
  changed_by text not null
);

create table tag_run (
  id text primary key,
  title text not null,
  tag text not null,
  put_on boolean not null,
  state text not null check (state in ('RUNNING', 'DONE', 'STOPPED')),
  total integer not null,
  done integer not null,
  started_at timestamptz not null,
  started_by text not null,
  ended_at timestamptz
);

-- for whom it is still to be done
create table tag_run_person (
  run_id text not null references tag_run (id),
  person_key text not null,
  primary key (run_id, person_key)
);
