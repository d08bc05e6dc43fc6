create table product (
  id text primary key, title text not null, category text not null, price numeric(10, 2) not null,
  thing boolean not null, about text not null, listed boolean not null default true, position serial
);
create table discount (code text primary key, percent integer not null check (percent between 0 and 100));
create table setting (name text primary key, on_or_off boolean not null);
create table account (email text primary key, name text not null, password_hash text not null);
create sequence order_number start 1001;
create table shop_order (
  id text primary key, email text not null, name text not null, guest boolean not null, placed_at timestamptz not null,
  paid_at timestamptz, fulfilled_at timestamptz, refunded_at timestamptz, cancelled_at timestamptz
);
create index shop_order_placed on shop_order (placed_at desc);
create table order_line (
  order_id text not null references shop_order (id), line text not null, product text not null, title text not null,
  quantity integer not null, amount numeric(10, 2) not null, thing boolean not null, refunded boolean not null,
  primary key (order_id, line)
);
create table outbox (
  id bigint generated always as identity primary key, event_id text not null, body text not null,
  attempts integer not null default 0, next_at timestamptz not null default now(), sent_at timestamptz, last_answer text
);
create index outbox_due on outbox (id) where sent_at is null;

insert into setting values ('guests', false);
insert into discount values ('OPENDAY', 100), ('SPRING20', 20);
insert into product (id, title, category, price, thing, about) values
  ('FIRST', 'First Hive', 'Courses', 90.00, false, 'From an empty box to your first colony. One year.'),
  ('BUNDLE-S', 'Starter bundle', 'Courses', 150.00, false, 'First Hive, A Bee Year and Tools & Suit together. One year.'),
  ('YEAR', 'A Bee Year', 'Courses', 70.00, false, 'Twelve months at the hive, one letter a month. One year.'),
  ('HEALTH', 'Hive Health', 'Courses', 120.00, false, 'Mites, foulbrood and what to do about them. One year.'),
  ('HONEY', 'Honey Harvest', 'Courses', 110.00, false, 'Taking off, extracting, filling, selling. For good.'),
  ('WINTER', 'Winter Care', 'Courses', 80.00, false, 'Feeding, wrapping, waiting. For good.'),
  ('QUEEN-SELF', 'Queen Rearing, self-paced', 'Courses', 180.00, false, 'Grafting and mating, at your own pace. One year.'),
  ('QUEEN-LIVE', 'Queen Rearing, with live calls', 'Courses', 320.00, false, 'The same, with six evenings together. One year.'),
  ('TASTER', 'Open day taster', 'Courses', 0.00, false, 'One month of A Bee Year, free of charge.'),
  ('POLLEN', 'Pollen Lab, early place', 'Courses', 60.00, false, 'Be among the first under the microscope.'),
  ('KIT-2', 'Smoker & veil', 'Things', 64.00, true, 'A steel smoker and a veil that folds. Posted.'),
  ('CHART-A2', 'Grafting chart, printed', 'Things', 14.00, true, 'A2, on washable paper. Posted.');
