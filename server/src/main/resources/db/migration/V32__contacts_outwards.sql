-- What becomes of tags, lists and fields of somebody whom a system of contacts does not know, and whom somebody had it make known.
alter table policy add column outwards text not null default 'MAKE';
alter table delivery add column make_known boolean not null default false;
