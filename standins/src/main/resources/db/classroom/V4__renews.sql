alter table enrolment add column renews boolean not null default false;
alter table held add column renews boolean not null default false;
