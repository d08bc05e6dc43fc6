-- Run by ./yoru restore on what it has just restored, before any server starts on it. The variable backup_at is when the
-- backup was made. What only the program can settle is noted in the table restored, for the next start.

\set ON_ERROR_STOP on
begin;

-- the world has gone on: nothing is told to anybody, and nothing is taken in, before somebody has looked
update connection set state = 'OFF';

-- it may have been sent since; an operator can have it sent again
update delivery
set status = 'GIVEN_UP',
    failing_since = coalesce(failing_since, now()),
    next_try_at = null,
    last_answer = 'kept back after a restore: it may have been sent since the backup',
    last_answer_at = now()
where status = 'WAITING'
  and (matter like 'letter/%' or matter like 'event/%' or matter like 'code/%');

-- nobody is at work on it
update scheduled_tasks set picked = false, picked_by = null, last_heartbeat = null where picked;

-- whatever let somebody in then lets nobody in now
delete from spring_session;
delete from password_code;
delete from first_code;
delete from failed_sign_in;

-- since the backup the lost server has gone on counting. Whoever heard of it must not take something else for the same:
-- no number is given twice (keys of requests, Message-IDs, links that carry a person's), and no state is older than one
-- that a system was told. What people read goes on a smaller step further.
select setval(format('%I.%I', schemaname, sequencename), coalesce(last_value, start_value) + 10000000)
from pg_sequences
where schemaname = 'public' and sequencename not in ('hand_order', 'quote_id_seq');
select setval(format('%I.%I', schemaname, sequencename), coalesce(last_value, start_value) + 10000)
from pg_sequences
where schemaname = 'public' and sequencename in ('hand_order', 'quote_id_seq');
update delivery
set revision = revision + 1000000
where not (matter like 'letter/%' or matter like 'event/%' or matter like 'code/%');
update shown_sign set revision = revision + 1000000;

-- what becomes due by itself between the backup and now may have been done: the program keeps that back, too
alter table restored add column if not exists last_fact bigint not null default 0;
insert into restored (backup_at, last_fact) select :'backup_at', coalesce(max(seq), 0) from fact;

commit;
