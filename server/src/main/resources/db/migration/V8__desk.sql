-- What is entered at the desk: facts that no system reported, notes; orders and their money as a list that can be
-- searched, computed from the facts and made anew whenever they or the rulebook change.

alter table fact alter column connection_id drop not null;

create sequence hand_order start 1001;

-- an act is done once, however often it is sent
create table desk_act (
  key text primary key,
  at timestamptz not null,
  operator text not null,
  order_id text,
  person_id bigint references person (id)
);

create table person_note (
  id bigint generated always as identity primary key,
  person_id bigint not null references person (id),
  at timestamptz not null,
  operator text not null,
  text text not null
);
create index person_note_person on person_note (person_id, id);

create table order_row (
  id text primary key,
  person_id bigint not null references person (id),
  channel text not null,
  currency text not null,
  placed_at timestamptz not null,
  opened_at timestamptz,
  cancelled_at timestamptz,
  overdue_at timestamptz,
  pay_by date,
  invoice text,
  total numeric not null,
  products text[] not null,
  to_do text[] not null
);
create index order_row_person on order_row (person_id);
create index order_row_placed on order_row (placed_at desc, id);
create index order_row_to_do on order_row using gin (to_do);
create index order_row_products on order_row using gin (products);
create index order_row_overdue on order_row (overdue_at) where overdue_at is not null;

create table order_money (
  id bigint generated always as identity primary key,
  order_id text not null references order_row (id) on delete cascade,
  at timestamptz not null,
  line text not null,
  kind text not null check (kind in ('PAID', 'GIVEN_BACK', 'WAIVED')),
  amount numeric not null
);
create index order_money_order on order_money (order_id);

insert into scheduled_tasks (task_name, task_instance, execution_time, picked, version)
  select 'orders-anew', 'all', now(), false, 1 where exists (select 1 from fact where type = 'yoru.order.placed');

-- gifts and seats that were offered to somebody, and the codes with which they can be taken up
create table gift (
  order_id text not null,
  line text not null,
  seat integer not null,
  address text not null,
  state text not null check (state in ('WAITING', 'SENT', 'WITHDRAWN')),
  send_on date,
  sent_at timestamptz,
  primary key (order_id, line, seat)
);

create table gift_code (
  hash text primary key,
  order_id text not null,
  line text not null,
  seat integer not null,
  made_at timestamptz not null,
  foreign key (order_id, line, seat) references gift (order_id, line, seat)
);

-- codes that were tried and do not exist, by where from: whoever guesses is stopped
create table claim_failure (
  origin text primary key,
  failures integer not null,
  since timestamptz not null
);

-- who may do what; whoever was there before may do everything
alter table operator add column role text not null default 'OWNER'
  check (role in ('OWNER', 'OPERATOR', 'SUPPORT', 'READER'));
alter table operator alter column role drop default;
