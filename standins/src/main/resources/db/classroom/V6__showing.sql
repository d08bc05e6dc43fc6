-- What the system was told to show, by the path of the place.
create table showing (
    place text primary key,
    says jsonb not null
);
