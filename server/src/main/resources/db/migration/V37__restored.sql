-- When this database was restored from a backup, and from when that was; the next start settles what it cannot know.

create table if not exists restored (
  id bigint generated always as identity primary key,
  at timestamptz not null default now(),
  backup_at timestamptz not null,
  settled_at timestamptz
);
