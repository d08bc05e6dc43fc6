-- Codes that a program makes: of an amount too, for some products, for some time, so many times.
alter table discount alter column percent drop not null;
alter table discount add column amount numeric(10, 2);
alter table discount add column products text[] not null default '{}';
alter table discount add column expires date;
alter table discount add column uses_left integer;
alter table discount add column email text not null default '';
