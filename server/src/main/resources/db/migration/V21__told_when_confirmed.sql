-- What has opened is told the person once the systems have confirmed it, and how long it lasts as far as one can promise.
create table announcement (
    id        bigint generated always as identity primary key,
    person_id bigint      not null references person,
    target    text        not null,
    batch     text        not null,
    since     timestamptz not null,
    until     timestamptz,
    renews    boolean     not null,
    free      boolean     not null,
    order_id  text,
    fact_seq  bigint,
    unique (person_id, target)
);

alter table delivery add column renews boolean not null default false;

-- rulebook: the one by which it was told; a part that a later one writes down is no news to who has the whole
alter table standing
    add column renews   boolean not null default false,
    add column rulebook int     not null default 0;
update standing set rulebook = coalesce((select max(number) from rulebook_version), 0);

alter table opening add column renews boolean not null default false;
