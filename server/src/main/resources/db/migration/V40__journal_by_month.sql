-- The journal by month, so that what is too old goes at once and leaves no holes behind. What there is stays as it is, as one
-- stretch up to the end of this month.
alter table journal_entry rename to journal_entry_before;
alter table journal_entry_before alter column id drop identity;
alter table journal_entry_before drop constraint journal_entry_pkey;
alter index journal_fact rename to journal_before_fact;
alter index journal_person rename to journal_before_person;
alter index journal_trouble rename to journal_before_trouble;

create sequence journal_entry_number as bigint;
select setval('journal_entry_number', coalesce(max(id), 0) + 1, false) from journal_entry_before;

create table journal_entry (
    id bigint not null default nextval('journal_entry_number'),
    at timestamptz not null,
    kind text not null,
    title text not null,
    said text not null,
    actor text,
    person_id bigint references person (id),
    fact_seq bigint references fact (seq),
    account_id uuid,
    account_address text,
    primary key (id, at)
) partition by range (at);
alter sequence journal_entry_number owned by journal_entry.id;
create index journal_fact on journal_entry (fact_seq) where fact_seq is not null;
create index journal_person on journal_entry (person_id, id) where person_id is not null;
create index journal_trouble on journal_entry (actor, at) where kind in ('FAILED', 'REFUSED');

do $$
declare
    -- months in UTC, whatever the connection's zone is
    next_month timestamptz := (date_trunc('month', now() at time zone 'UTC') + interval '1 month') at time zone 'UTC';
    following timestamptz := (date_trunc('month', now() at time zone 'UTC') + interval '2 months') at time zone 'UTC';
    stretch text := 'journal_entry_until_' || to_char(next_month at time zone 'UTC', 'YYYY_MM');
begin
    execute format('alter table journal_entry_before rename to %I', stretch);
    execute format('alter table journal_entry attach partition %I for values from (minvalue) to (%L)', stretch, next_month);
    execute format(
        'create table %I partition of journal_entry for values from (%L) to (%L)',
        'journal_entry_' || to_char(next_month at time zone 'UTC', 'YYYY_MM'), next_month, following);
end
$$;
-- should no server have run when a month began
create table journal_entry_otherwise partition of journal_entry default;
