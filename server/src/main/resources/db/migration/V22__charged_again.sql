-- A charge that was refused can be asked for again, each time under a key of its own.
alter table charge add column attempt int not null default 1;
