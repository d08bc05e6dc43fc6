-- Methods of payment on file that a shop is asked to charge for an order by hand.

create table charge (
  order_id text primary key,
  connection_id text not null references connection (id),
  person_key text not null,
  method text not null,
  label text not null,
  amount numeric not null,
  currency text not null,
  state text not null check (state in ('WAITING', 'PAID', 'REFUSED', 'LEFT')),
  said text not null,
  asked_at timestamptz not null,
  asked_by text not null,
  answered_at timestamptz
);
