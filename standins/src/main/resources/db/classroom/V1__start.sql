create table course (
  id text primary key, title text not null, category text not null, content boolean not null, published boolean not null,
  door text not null check (door in ('by-enrolment', 'free-sign-up', 'open-to-all')), about text not null, position serial
);
create table section (
  course_id text not null references course (id), id text not null, title text not null,
  tier text not null check (tier in ('open', 'core', 'plus')), position serial, primary key (course_id, id)
);
create table learner (email text primary key, name text not null);
create table enrolment (
  course_id text not null references course (id), learner text not null references learner (email),
  state text not null check (state in ('open', 'closed')), until timestamptz, revision integer not null,
  changed_at timestamptz not null, primary key (course_id, learner)
);
create index enrolment_learner on enrolment (learner);
create table lesson_done (
  course_id text not null, section_id text not null, learner text not null references learner (email),
  primary key (course_id, section_id, learner), foreign key (course_id, section_id) references section (course_id, id)
);
create table answer (
  id bigint generated always as identity primary key, at timestamptz not null, asked text not null, key text not null,
  status integer not null, said text not null
);
create index answer_key on answer (key);

insert into course (id, title, category, content, published, door, about) values
  ('first-hive', 'First Hive', 'Starter', true, true, 'by-enrolment', 'From an empty box to your first colony.'),
  ('bee-year', 'A Bee Year', 'Starter', true, true, 'by-enrolment', 'Twelve months at the hive.'),
  ('tools-suit', 'Tools & Suit', 'Starter', true, true, 'free-sign-up', 'What to buy, what to borrow, what to leave.'),
  ('hive-health', 'Hive Health', 'Keeping', true, true, 'by-enrolment', 'Mites, foulbrood and what to do about them.'),
  ('honey-harvest', 'Honey Harvest', 'Keeping', true, true, 'by-enrolment', 'Taking off, extracting, filling, selling.'),
  ('winter-care', 'Winter Care', 'Keeping', true, true, 'by-enrolment', 'Feeding, wrapping, waiting.'),
  ('queen-rearing', 'Queen Rearing', 'Advanced', true, true, 'by-enrolment', 'Grafting, mating, marking.'),
  ('pollen-lab', 'Pollen Lab', 'Advanced', false, false, 'by-enrolment', 'Under the microscope. In preparation.');

insert into section (course_id, id, title, tier) values
  ('first-hive', 'welcome', 'Before you begin', 'open'),
  ('first-hive', 'box', 'The box and its parts', 'core'),
  ('first-hive', 'colony', 'Your first colony', 'core'),
  ('first-hive', 'inspection', 'The first inspection', 'core'),
  ('bee-year', 'spring', 'March to May', 'core'),
  ('bee-year', 'summer', 'June to August', 'core'),
  ('bee-year', 'autumn', 'September to November', 'core'),
  ('bee-year', 'winter', 'December to February', 'core'),
  ('tools-suit', 'suit', 'Suit, veil and gloves', 'open'),
  ('tools-suit', 'smoker', 'Lighting a smoker', 'core'),
  ('hive-health', 'mites', 'Counting mites', 'core'),
  ('hive-health', 'treatment', 'Treatments, and when', 'core'),
  ('hive-health', 'foulbrood', 'Foulbrood', 'plus'),
  ('honey-harvest', 'off', 'Taking off', 'core'),
  ('honey-harvest', 'extract', 'Extracting', 'core'),
  ('honey-harvest', 'jar', 'Jars and labels', 'core'),
  ('winter-care', 'feed', 'Feeding', 'core'),
  ('winter-care', 'wrap', 'Wrapping', 'core'),
  ('queen-rearing', 'why', 'Why rear queens', 'open'),
  ('queen-rearing', 'grafting', 'Grafting larvae', 'core'),
  ('queen-rearing', 'mating', 'Mating nucs', 'core'),
  ('queen-rearing', 'calls', 'Recordings of the live calls', 'plus');
