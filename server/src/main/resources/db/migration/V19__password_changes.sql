-- How often somebody's password was changed: sessions from before a change have ended.

alter table operator add column password_changes int not null default 0;
