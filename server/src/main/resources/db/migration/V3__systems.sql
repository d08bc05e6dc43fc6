-- Systems of more kinds, told more than who may be in which course; a queue of its own for each person in each system;
-- comparing what a system has with what it should have.

alter table connection drop constraint connection_kind_check;
alter table connection add column state text not null default 'ON' check (state in ('OFF', 'TRYING', 'ON'));
alter table connection alter column state drop default;
alter table connection add column settings jsonb not null default '{}';
alter table connection add column former_secret bytea;
alter table connection add column former_secret_until timestamptz;
alter table connection add column secret_at timestamptz;
alter table connection alter column signing_secret drop not null;
alter table connection alter column token drop not null;

alter table catalogue_item drop constraint catalogue_item_kind_check;
alter table catalogue_item add column former_title text;

alter table delivery rename column course to matter;
update delivery set matter = 'course/' || matter;
alter table delivery add column content jsonb;
alter table delivery add column trouble text;
alter table delivery add column wanted_at timestamptz not null default now();
alter table delivery alter column wanted_at drop default;
create index delivery_waiting on delivery (connection_id, person_id) where status = 'WAITING';
create index delivery_answered on delivery (connection_id, last_answer_at) where status = 'ANSWERED';

-- what a system is told about one person, one thing after the other; the newest version is the one that is worked on
create table lane (
  connection_id text not null references connection (id),
  person_id bigint not null references person (id),
  version integer not null,
  busy_until timestamptz,
  primary key (connection_id, person_id)
);
insert into lane (connection_id, person_id, version)
  select distinct connection_id, person_id, 1 from delivery where status = 'WAITING';
delete from scheduled_tasks where task_name = 'deliver';
insert into scheduled_tasks (task_name, task_instance, execution_time, picked, version)
  select 'tell', connection_id || '/' || person_id || '@1', now(), false, 1 from lane;

create table state_check (
  id bigint generated always as identity primary key,
  connection_id text not null references connection (id),
  begun_at timestamptz not null,
  begun_by text not null,
  place text,
  found integer not null default 0,
  ended_at timestamptz,
  fault text
);
create index state_check_connection on state_check (connection_id, id);

-- what a check has found so far; dropped when it has been compared
create table found_state (
  check_id bigint not null references state_check (id) on delete cascade,
  person_key text not null,
  target text not null,
  until timestamptz,
  dated boolean not null,
  primary key (check_id, person_key, target)
);

create table out_of_step (
  id bigint generated always as identity primary key,
  connection_id text not null references connection (id),
  person_key text not null,
  target text not null,
  kind text not null check (kind in ('MISSING', 'EXTRA', 'DIFFERENT')),
  wanted_until timestamptz,
  found_until timestamptz,
  noticed_at timestamptz not null,
  check_id bigint not null,
  unique (connection_id, person_key, target)
);
