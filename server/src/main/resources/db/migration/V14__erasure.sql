-- Somebody who asked to be forgotten: closed everywhere first, then taken out of all that is kept.

alter table person add column erasure text check (erasure in ('CLOSING', 'DONE'));
create index person_closing on person (id) where erasure = 'CLOSING';
