-- Options, trials, a last payment, seats; gifts and amounts given back.

alter table product add column trial text;
alter table product add column cycles integer;
alter table product add column seats boolean not null default false;
create table product_option (
  id text primary key, product text not null references product (id), title text not null, price numeric(10, 2) not null,
  position serial
);
alter table order_line add column option text;
alter table order_line add column gift_to text;
alter table shop_order add column given_back numeric(10, 2) not null default 0;

insert into product (id, title, category, price, thing, about, every, parts, trial, cycles, seats) values
  ('GARDEN', 'The Bee Garden', 'Courses', 60.00, false, 'Something in flower from March to October. For good.', null, null, null, null, false),
  ('SCHOOL-HIVE', 'A Hive at School', 'Courses', 95.00, false, 'Bees, children and a fence. One year.', null, null, null, null, false),
  ('SWARM', 'Swarm Season', 'Courses', 85.00, false, 'Seeing it come, catching it, keeping it. One year.', null, null, null, null, false),
  ('DIARY', 'The Hive Diary', 'Courses', 40.00, false, 'Ten minutes of notes that save a colony.', null, null, null, null, false),
  ('MOVING', 'Moving Hives', 'Courses', 45.00, false, 'Across the garden or across the county. For good.', null, null, null, null, false),
  ('GENES', 'Drones & Genes', 'Courses', 140.00, false, 'Lines, mating and what the drones bring. One year.', null, null, null, null, false),
  ('LIVING', 'A Living from Honey', 'Courses', 220.00, false, 'Prices, labels, markets, tax. One year.', null, null, null, null, false),
  ('CANDLES', 'Candles & Wax', 'Courses', 65.00, false, 'From cappings to a candle that burns straight. For good.', null, null, null, null, false),
  ('SKEP', 'Skep Weaving, one year', 'Courses', 75.00, false, 'A straw hive by hand.', null, null, null, null, false),
  ('CRAFT-ALL', 'All of the craft', 'Courses', 120.00, false, 'Every craft course, also those to come. One year.', null, null, null, null, false),
  ('MENTOR', 'A Mentor for a Season', 'Courses', 260.00, false, 'Hive Health and Swarm Season, with somebody to ask. One year.', null, null, null, null, false),
  ('MASTER', 'The Master''s Year', 'Courses', 900.00, false, 'Everything in Keeping and Advanced, in twelve parts.', null, 12, null, null, false),
  ('EVENING', 'An evening with the bees', 'Courses', 0.00, false, 'The open lessons of Swarm Season for a month, free of charge.', null, null, null, null, false),
  ('CLUB', 'Places for a beekeeping club', 'Courses', 55.00, false, 'First Hive for each of you. One year, by the seat.', null, null, null, null, true),
  ('FORAGER', 'Forager', 'Membership', 9.00, false, 'Two courses of your choice, as long as you are with us.', 'P1M', null, null, null, false),
  ('KEEPER', 'Keeper', 'Membership', 19.00, false, 'Four courses of your choice and the Hive Diary. The first fortnight is free.', 'P1M', null, 'P14D', null, false),
  ('WARDEN', 'Warden', 'Membership', 39.00, false, 'All of Keeping, Judging Honey, and the wardens'' table.', 'P1M', null, null, null, false),
  ('EVENINGS', 'Winter evenings', 'Membership', 15.00, false, 'Six months of evenings at the stove, then it ends by itself.', 'P1M', null, null, 6, false),
  ('PATRON', 'Patron of the apiary', 'Circle', 60.00, false, 'The study circle and the letter of the season, year by year.', 'P1Y', null, null, null, false),
  ('KIT-1', 'Beginner''s kit', 'Things', 149.00, true, 'Hive tool, brush, smoker, veil, gloves. Posted.', null, null, null, null, false),
  ('GLOVES', 'Gloves', 'Things', 24.00, true, 'Goatskin, three sizes. Posted.', null, null, null, null, false),
  ('JARS-48', 'Jars, 48', 'Things', 36.00, true, 'A pound each, with lids. Posted.', null, null, null, null, false),
  ('WAX-1', 'Wax, a kilo', 'Things', 18.00, true, 'From our own cappings. Posted.', null, null, null, null, false),
  ('STRAW', 'Straw and cane', 'Things', 28.00, true, 'Enough for one skep. Posted.', null, null, null, null, false),
  ('BOOK', 'A Bee Year', 'Things', 22.00, true, 'The course as a book: our notes of ten years. Posted.', null, null, null, null, false),
  ('LABELS', 'Labels, a roll', 'Things', 0.12, true, 'Five hundred, with room for your name. Posted.', null, null, null, null, false);
insert into product_option (id, product, title, price) values
  ('SWARM-SELF', 'SWARM', 'by yourself', 85.00),
  ('SWARM-LIVE', 'SWARM', 'with a day in the apiary', 160.00),
  ('MENTOR-LETTERS', 'MENTOR', 'by letter', 260.00),
  ('MENTOR-VISITS', 'MENTOR', 'with visits', 420.00);
-- What members can choose from.
create table member_course (id text primary key, title text not null);
insert into member_course values
  ('first-hive', 'First Hive'), ('bee-year', 'A Bee Year'), ('bee-garden', 'The Bee Garden'), ('hive-health', 'Hive Health'),
  ('winter-care', 'Winter Care'), ('swarm-season', 'Swarm Season'), ('moving-hives', 'Moving Hives'),
  ('queen-rearing', 'Queen Rearing'), ('drones-genes', 'Drones & Genes'), ('candles-wax', 'Candles & Wax'),
  ('skep-weaving', 'Skep Weaving');
create table chosen (
  email text not null, course text not null references member_course (id), primary key (email, course)
);
