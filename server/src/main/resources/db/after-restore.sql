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

-- what becomes due by itself between the backup and now may have been done: the program keeps that back, too
alter table restored add column if not exists last_fact bigint not null default 0;
insert into restored (backup_at, last_fact) select :'backup_at', coalesce(max(seq), 0) from fact;

commit;
