-- What operators have changed and not published, so that it is there on any machine.
create table kept_draft (
  email text primary key, name text not null, draft text, places text[] not null, many integer not null,
  revision integer not null, kept_at timestamptz not null
);
