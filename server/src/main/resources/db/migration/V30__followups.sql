-- What follow-ups do. What was decided stands in the ledger (followup.went); here is how far it has been carried out.
create sequence followup_run_id_seq increment by 50;
create table followup_run (
    id bigint primary key,
    person_id bigint not null references person (id),
    subject text not null,
    followup text not null,
    title text not null,
    occasion text not null,
    order_id text,
    thing text,
    about text not null,
    moment timestamptz not null,
    decided_at timestamptz not null,
    silence text,
    stretches integer not null,
    waits_until timestamptz,
    stopped_at timestamptz,
    questions jsonb not null,
    unique (subject, followup, occasion)
);
create index followup_run_person on followup_run (person_id);
create index followup_run_latest on followup_run (followup, moment desc, id desc);
create index followup_run_moment on followup_run (moment desc, id desc);

create sequence followup_step_id_seq increment by 50;
create table followup_step (
    id bigint primary key,
    run_id bigint not null references followup_run (id) on delete cascade,
    person_id bigint not null references person (id),
    stretch integer not null,
    number integer not null,
    step text not null,
    does text not null,
    state text not null,
    due_at timestamptz not null,
    begun_at timestamptz,
    ended_at timestamptz,
    said jsonb,
    code text,
    failing boolean not null,
    note text not null
);
create index followup_step_run on followup_step (run_id, stretch, number);
create index followup_step_open on followup_step (person_id) where state in ('DUE', 'BEGUN', 'GOING');
create index followup_step_subject_due on followup_step (run_id) where state = 'DUE';

-- Under which rulebook follow-ups were decided last of somebody.
create table followup_person (
    person_id bigint primary key references person (id),
    rulebook integer not null
);

-- How far back a publish reaches: follow-ups that it lets serve what was before it, and whether what it opens or ends by itself
-- is something to follow up.
alter table rulebook_version add column reach jsonb not null default '{"counts": false, "past": []}';

-- After how long it is too late to write about something.
alter table policy add column late text not null default 'P2D';

-- Who reads what follow-ups tell the team.
alter table operator add column told boolean not null default false;
update operator set told = true where role = 'OWNER';
