-- Who the school is, as its owner says it. No row: as the installation's settings say.
create table school (
    only_one boolean primary key default true check (only_one),
    name text not null,
    zone text not null,
    currency text not null,
    public_address text not null,
    version integer not null,
    changed_by text not null,
    changed_at timestamptz not null
);
