-- Letters of follow-ups that answer no act of the person: each carries an address under which they can be stopped.
alter table followup_step add column unasked boolean not null default false;

create table letter_stop (
    person_id bigint primary key references person (id),
    code text not null unique,
    stopped_at timestamptz,
    stopped_by text
);
