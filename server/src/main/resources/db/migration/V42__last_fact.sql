-- The last fact that a restored database had: what came after it nobody can have acted on before.
-- A restore adds the column itself to a database that is older.

alter table restored add column if not exists last_fact bigint not null default 0;
