-- tells whether an act that comes again under its key is the same one
alter table desk_act add column fingerprint text not null default '';
