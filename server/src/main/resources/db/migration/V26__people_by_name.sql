-- a page of the list of people is read in its order, however many there are
create index person_by_name on person (lower(coalesce(nullif(name, ''), person_key)), first_seen_at desc, id);
