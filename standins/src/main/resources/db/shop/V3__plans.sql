-- Things paid again and again, or in parts.

alter table product add column every text;
alter table product add column parts integer;
create table subscription (
  id text primary key, order_id text not null references shop_order (id), email text not null, product text not null,
  every text not null, paid_through timestamptz not null, ending boolean not null default false, ended boolean not null default false
);
create table part_paid (
  order_id text not null, line text not null, number integer not null, primary key (order_id, line, number),
  foreign key (order_id, line) references order_line (order_id, line)
);
insert into product (id, title, category, price, thing, about, every, parts) values
  ('CIRCLE', 'Keepers'' Circle', 'Circle', 12.00, false, 'The study circle and the letter of the season, month by month.', 'P1M', null),
  ('DIPLOMA', 'Keeper''s Year', 'Courses', 240.00, false, 'First Hive, Hive Health and Winter Care, paid in three parts, one a month.', null, 3);
