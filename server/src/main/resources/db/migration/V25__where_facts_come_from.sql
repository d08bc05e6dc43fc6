-- Where a fact comes from, said instead of guessed from a missing connection. Nobody is named: the journal does that.
alter table fact add column origin text not null default 'SYSTEM'
  check (origin in ('SYSTEM', 'OPERATOR', 'VISITOR', 'FILE', 'YORU'));
update fact set origin = case
    when source = '/yoru/desk' and event_id like 'claim-%' then 'VISITOR'
    when source in ('/yoru/desk', '/segments') then 'OPERATOR'
    when source = '/policies' then 'YORU'
    else 'FILE' end
  where connection_id is null;
alter table fact alter column origin drop default;
alter table fact add check ((origin = 'SYSTEM') = (connection_id is not null));
