-- What the school does with people it does not know for certain, and what waits because of it.

create table policy (
  id integer primary key check (id = 1),
  guests text not null check (guests in ('MAKE', 'HOLD')),
  unknown_contacts text not null check (unknown_contacts in ('MAKE', 'HOLD', 'SKIP')),
  joining text not null check (joining in ('ASK', 'SAME_VERIFIED_ADDRESS')),
  gifts_kept_for text
);
insert into policy (id, guests, unknown_contacts, joining) values (1, 'MAKE', 'MAKE', 'ASK');

-- reports that are not facts yet: somebody is to say whether they become some
create table held_report (
  id bigint generated always as identity primary key,
  connection_id text not null references connection (id),
  source text not null,
  event_id text not null,
  about text not null,
  why text not null check (why in ('GUEST', 'UNKNOWN_CONTACT', 'EARLY')),
  subject text not null,
  name text not null,
  happened_at timestamptz not null,
  received_at timestamptz not null,
  body text not null,
  state text not null check (state in ('HELD', 'RELEASED', 'LEFT_OUT')),
  decided_at timestamptz,
  decided_by text,
  unique (source, event_id)
);
create index held_report_about on held_report (about, id);
create index held_report_waiting on held_report (id) where state = 'HELD';

create index fact_guest on fact (subject)
  where type = 'yoru.order.placed' and body -> 'data' -> 'guest' = 'true';
create index fact_verified on fact (subject) where jsonb_exists(body -> 'data', 'verifiedEmail');
