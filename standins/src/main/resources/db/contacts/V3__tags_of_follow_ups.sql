insert into tag values ('first-timer', 'First timer'), ('could-join', 'Could join'), ('was-refunded', 'Was refunded') on conflict do nothing;
