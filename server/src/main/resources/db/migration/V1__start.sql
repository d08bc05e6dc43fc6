-- Facts are written once and never changed; everything else can be computed from them and the rulebook,
-- except what operators and connected systems did.

create table operator (
  id uuid primary key,
  email text not null unique,
  name text not null,
  password_hash text not null,
  failures integer not null default 0,
  locked_until timestamptz
);

create table connection (
  id text primary key,
  kind text not null check (kind in ('SHOP', 'CLASSROOM')),
  title text not null,
  address text not null,
  signing_secret bytea not null,
  token bytea not null,
  heard_at timestamptz,
  catalogue_at timestamptz,
  catalogue_fault text,
  refused bigint not null default 0
);

create table catalogue_item (
  id bigint generated always as identity primary key,
  connection_id text not null references connection (id),
  kind text not null check (kind in ('PRODUCT', 'COURSE')),
  external_id text not null,
  title text not null,
  category text not null,
  position integer not null,
  details jsonb not null,
  seen_at timestamptz not null,
  vanished_at timestamptz,
  unique (connection_id, kind, external_id)
);

create table person (
  id bigint generated always as identity primary key,
  person_key text not null unique,
  name text not null default '',
  first_seen_at timestamptz not null
);
create index person_seen on person (first_seen_at desc, id);

create table fact (
  seq bigint generated always as identity primary key,
  source text not null,
  event_id text not null,
  type text not null,
  subject text not null,
  order_key text not null,
  happened_at timestamptz not null,
  received_at timestamptz not null,
  connection_id text not null references connection (id),
  body jsonb not null,
  unique (source, event_id)
);
create index fact_subject on fact (subject);
create index fact_order on fact (order_key);
create index fact_type on fact (type, happened_at);

create table rulebook_version (
  number integer primary key,
  document jsonb not null,
  note text not null,
  published_by text not null,
  published_at timestamptz not null,
  difference text not null,
  gained integer not null,
  lost integer not null,
  other_end integer not null
);

create table opening (
  id bigint generated always as identity primary key,
  person_id bigint not null references person (id),
  target text not null,
  opens_at timestamptz not null,
  ends_at timestamptz,
  check (ends_at is null or ends_at > opens_at)
);
create index opening_person on opening (person_id);
create index opening_opens on opening (opens_at);
create index opening_ends on opening (ends_at);

create table standing (
  id bigint generated always as identity primary key,
  person_id bigint not null references person (id),
  target text not null,
  until timestamptz,
  unique (person_id, target)
);

create table delivery (
  id bigint generated always as identity primary key,
  connection_id text not null references connection (id),
  person_id bigint not null references person (id),
  course text not null,
  open boolean not null,
  until timestamptz,
  revision integer not null,
  status text not null check (status in ('WAITING', 'ANSWERED', 'GIVEN_UP')),
  attempts integer not null,
  failing_since timestamptz,
  next_try_at timestamptz,
  last_answer text,
  last_answer_at timestamptz,
  fact_seq bigint references fact (seq),
  unique (connection_id, person_id, course)
);
create index delivery_person on delivery (person_id);
create index delivery_failing on delivery (failing_since) where failing_since is not null;

create table journal_entry (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  kind text not null,
  title text not null,
  said text not null,
  actor text,
  person_id bigint references person (id),
  fact_seq bigint references fact (seq)
);
create index journal_fact on journal_entry (fact_seq) where fact_seq is not null;
create index journal_person on journal_entry (person_id, id) where person_id is not null;

-- db-scheduler 16's own table
create table scheduled_tasks (
  task_name text not null,
  task_instance text not null,
  task_data bytea,
  execution_time timestamptz,
  picked boolean not null,
  picked_by text,
  last_success timestamptz,
  last_failure timestamptz,
  consecutive_failures int,
  last_heartbeat timestamptz,
  version bigint not null,
  priority smallint,
  state text,
  primary key (task_name, task_instance)
);
create index execution_time_idx on scheduled_tasks (execution_time);
create index last_heartbeat_idx on scheduled_tasks (last_heartbeat);
create index priority_execution_time_idx on scheduled_tasks (priority desc, execution_time asc);

-- Spring Session's own tables
create table spring_session (
  primary_id char(36) not null primary key,
  session_id char(36) not null unique,
  creation_time bigint not null,
  last_access_time bigint not null,
  max_inactive_interval int not null,
  expiry_time bigint not null,
  principal_name varchar(100)
);
create index spring_session_ix2 on spring_session (expiry_time);
create index spring_session_ix3 on spring_session (principal_name);

create table spring_session_attributes (
  session_primary_id char(36) not null references spring_session (primary_id) on delete cascade,
  attribute_name varchar(200) not null,
  attribute_bytes bytea not null,
  primary key (session_primary_id, attribute_name)
);
