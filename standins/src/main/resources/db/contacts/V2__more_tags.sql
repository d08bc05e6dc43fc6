insert into tag values ('club-member', 'In a bee club'), ('finished-first-hive', 'Finished First Hive'),
  ('asked-about-swarms', 'Asked about swarms'), ('helps-in-spring', 'Helps in spring');
insert into list values ('craft-letter', 'Letter of the craft room');
