-- The secret address under which whoever bought seats sees them; of the code only what is computed from it is kept.

create table seat_link (
  order_id text primary key,
  hash text not null unique,
  made_at timestamptz not null,
  made_by text not null
);
