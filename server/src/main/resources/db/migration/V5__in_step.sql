-- Comparing reads people in the order of their keys' code points, whatever the database's own order is; what a system
-- newly lists, or no longer lists, is announced until somebody has seen it.

create index person_by_code_points on person (person_key collate "C");
create index found_state_by_code_points on found_state (check_id, person_key collate "C");

alter table catalogue_item add column news text check (news in ('NEW', 'RENAMED', 'GONE'));
update catalogue_item set news = 'RENAMED' where former_title is not null;
