-- Calendars of endings that outside programs read under a secret address; only what is computed from it is kept.

create table calendar_feed (
  id bigint generated always as identity primary key,
  name text not null,
  hash text not null unique,
  made_at timestamptz not null,
  made_by text not null,
  read_at timestamptz
);

-- tables of the past that are brought in, and what becomes of each row
create table import_job (
  id bigint generated always as identity primary key,
  kind text not null check (kind in ('PEOPLE', 'ORDERS', 'MEMBERSHIPS', 'ENROLMENTS')),
  name text not null,
  columns jsonb not null,
  matching text not null,
  state text not null check (state in ('MATCHING', 'RUNNING', 'DONE', 'STOPPED')),
  total integer not null,
  made_at timestamptz not null,
  made_by text not null,
  ended_at timestamptz
);

create table import_row (
  job_id bigint not null references import_job (id) on delete cascade,
  number bigint not null,
  cells jsonb not null,
  fate text check (fate in ('NEW', 'KNOWN', 'FAULTY')),
  said text,
  primary key (job_id, number)
);
