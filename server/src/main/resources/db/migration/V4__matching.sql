-- What systems report is kept as it came, where its fields are matched by an operator, and can be taken up again.

create table matching_version (
  connection_id text not null references connection (id),
  number integer not null,
  document jsonb not null,
  note text not null,
  made_by text not null,
  made_at timestamptz not null,
  primary key (connection_id, number)
);

create table received (
  id bigint generated always as identity primary key,
  connection_id text not null references connection (id),
  report_id text not null,
  at timestamptz not null,
  body text not null,
  outcome text not null check (outcome in ('TAKEN', 'SET_ASIDE', 'FAULTY', 'TRIED')),
  said text not null,
  unique (connection_id, report_id)
);
create index received_latest on received (connection_id, id desc);
create index received_open on received (connection_id) where outcome <> 'TAKEN';
