insert into place (id, kind, title) values ('meadow', 'Groups', 'The meadow'), ('bee-club', 'Groups', 'Valley bee club'),
  ('keepers-yard', 'Areas', 'Keepers'' yard'), ('wardens-table', 'Areas', 'Wardens'' table');
