alter table course add column sold_here boolean not null default false;
