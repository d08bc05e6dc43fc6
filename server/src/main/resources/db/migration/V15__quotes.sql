-- What somebody was offered before they ordered.

create table quote (
  id bigint generated always as identity (start with 101) primary key,
  key text not null unique,
  person_key text not null,
  name text not null,
  sheet jsonb not null,
  total numeric not null,
  currency text not null,
  valid_until date,
  state text not null check (state in ('OPEN', 'AGREED', 'DECLINED')),
  made_at timestamptz not null,
  made_by text not null,
  decided_at timestamptz,
  decided_by text,
  order_id text
);
create index quote_open on quote (id) where state = 'OPEN';
