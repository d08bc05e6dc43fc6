-- A finding that somebody has accepted, for a reason; it comes back when what it rests on changes.

create table accepted_finding (
  kind text not null,
  subject text not null,
  evidence text not null,
  reason text not null,
  accepted_by text not null,
  accepted_at timestamptz not null,
  primary key (kind, subject)
);
