insert into course (id, title, category, content, published, door, about) values
  ('bee-garden', 'The Bee Garden', 'Starter', true, true, 'by-enrolment', 'Something in flower from March to October.'),
  ('school-hive', 'A Hive at School', 'Starter', true, true, 'by-enrolment', 'Bees, children and a fence.'),
  ('swarm-season', 'Swarm Season', 'Keeping', true, true, 'by-enrolment', 'Seeing it come, catching it, keeping it.'),
  ('hive-diary', 'The Hive Diary', 'Keeping', true, true, 'by-enrolment', 'Ten minutes of notes that save a colony.'),
  ('moving-hives', 'Moving Hives', 'Keeping', true, false, 'by-enrolment', 'Across the garden or across the county.'),
  ('drones-genes', 'Drones & Genes', 'Advanced', true, true, 'by-enrolment', 'Lines, mating and what the drones bring.'),
  ('living-from-honey', 'A Living from Honey', 'Advanced', true, true, 'by-enrolment', 'Prices, labels, markets, tax.'),
  ('judging-honey', 'Judging Honey', 'Advanced', false, true, 'by-enrolment', 'Clarity, aroma, and the judge''s white coat. For wardens.'),
  ('candles-wax', 'Candles & Wax', 'Craft', true, true, 'by-enrolment', 'From cappings to a candle that burns straight.'),
  ('skep-weaving', 'Skep Weaving', 'Craft', true, true, 'by-enrolment', 'A straw hive by hand.');
insert into section (course_id, id, title, tier) values
  ('bee-garden', 'soil', 'Soil and sun', 'open'),
  ('bee-garden', 'spring', 'What flowers early', 'core'),
  ('bee-garden', 'late', 'What flowers late', 'core'),
  ('school-hive', 'fence', 'The fence first', 'open'),
  ('school-hive', 'lesson', 'A lesson at the hive', 'core'),
  ('school-hive', 'letters', 'Letters to parents', 'plus'),
  ('swarm-season', 'signs', 'The signs', 'open'),
  ('swarm-season', 'catch', 'Catching a swarm', 'core'),
  ('swarm-season', 'split', 'Splitting in time', 'core'),
  ('swarm-season', 'day', 'A day in the apiary', 'plus'),
  ('hive-diary', 'page', 'The first page', 'core'),
  ('hive-diary', 'year', 'Reading a year', 'core'),
  ('moving-hives', 'near', 'Three feet', 'core'),
  ('moving-hives', 'far', 'Three miles', 'core'),
  ('drones-genes', 'lines', 'Lines', 'core'),
  ('drones-genes', 'drones', 'Drones', 'core'),
  ('drones-genes', 'lab', 'Under the lens', 'plus'),
  ('living-from-honey', 'price', 'What a jar costs', 'core'),
  ('living-from-honey', 'market', 'At the market', 'core'),
  ('living-from-honey', 'tax', 'The office', 'plus'),
  ('judging-honey', 'clarity', 'Clarity', 'core'),
  ('judging-honey', 'coat', 'The white coat', 'plus'),
  ('candles-wax', 'wax', 'Cleaning wax', 'open'),
  ('candles-wax', 'dip', 'Dipping', 'core'),
  ('candles-wax', 'mould', 'Moulds', 'core'),
  ('skep-weaving', 'straw', 'Straw', 'core'),
  ('skep-weaving', 'rounds', 'Round after round', 'core');
insert into download (id, title) values ('sowing-calendar', 'Sowing calendar'), ('diary-pages', 'Pages for the diary');
-- Ways to buy a course, as its keeper writes them down: products of the shop, parted by commas.
alter table course add column sold_as text not null default '';
update course set sold_as = ways.products from (values
  ('first-hive', 'FIRST, BUNDLE-S, DIPLOMA'), ('bee-year', 'YEAR, BUNDLE-S'), ('hive-health', 'HEALTH, MENTOR'),
  ('honey-harvest', 'HONEY'), ('winter-care', 'WINTER'), ('queen-rearing', 'QUEEN-SELF, QUEEN-LIVE'),
  ('bee-garden', 'GARDEN'), ('school-hive', 'SCHOOL-HIVE'), ('swarm-season', 'SWARM, MENTOR'), ('hive-diary', 'KEEPER'),
  ('moving-hives', 'MOVING'), ('drones-genes', 'GENES'), ('living-from-honey', 'LIVING'), ('judging-honey', 'WARDEN'),
  ('candles-wax', 'CANDLES, CRAFT-ALL'), ('skep-weaving', 'SKEP, CRAFT-ALL')) as ways (id, products)
where course.id = ways.id;
-- one of them has its own till
update course set sold_here = true where id = 'living-from-honey';
