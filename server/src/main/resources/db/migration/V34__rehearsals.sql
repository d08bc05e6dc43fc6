-- Stories of invented people, with what should be so; and how each came out when it was last run under the rulebook in force.
create table rehearsal (
    id text primary key,
    title text not null,
    document jsonb not null,
    revision int not null,
    kept_by text not null,
    kept_at timestamptz not null,
    ran_at timestamptz,
    -- what is not as expected, or why it cannot be run; none = all is as expected
    fails text
);

-- Published although stories did not come out as expected: which, a line each, and why.
alter table rulebook_version add column despite text not null default '';
alter table rulebook_version add column despite_why text not null default '';
