-- What went wrong with a system, by kind.
create index journal_trouble on journal_entry (actor, at) where kind in ('FAILED', 'REFUSED');
