-- Methods of payment that buyers left, and what was charged to them.

create table method (
  email text primary key, id text not null unique, label text not null, works boolean not null default true
);
create table charge (
  key text primary key, id text not null, email text not null, amount numeric(10, 2) not null, about text not null,
  paid boolean not null, charged_at timestamptz not null
);
create sequence charge_number start 501;
