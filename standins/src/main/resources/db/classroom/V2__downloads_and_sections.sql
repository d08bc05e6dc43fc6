create table download (id text primary key, title text not null, position serial);
create table held (
  thing text not null, learner text not null references learner (email),
  state text not null check (state in ('open', 'closed')), until timestamptz, revision integer not null,
  changed_at timestamptz not null, primary key (thing, learner)
);
create index held_learner on held (learner);

insert into download (id, title) values
  ('grafting-chart', 'Grafting chart'), ('mite-count-sheet', 'Mite count sheet'), ('honey-labels', 'Labels to print');

-- let in by hand long ago, behind everybody's back
insert into learner (email, name) values
  ('orla.brannock@post.example', 'Orla Brannock'), ('tibor.halasz@letter.example', 'Tibor Halasz');
insert into enrolment (course_id, learner, state, revision, changed_at) values
  ('queen-rearing', 'orla.brannock@post.example', 'open', 0, now()),
  ('hive-health', 'tibor.halasz@letter.example', 'open', 0, now());
