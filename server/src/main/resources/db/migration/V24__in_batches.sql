-- Many rows of one kind are written at once: their numbers are taken fifty at a time, and what a sequence gives is the last
-- of fifty.

alter table opening alter column id drop identity;
create sequence opening_id_seq increment by 50 owned by opening.id;
select setval('opening_id_seq', coalesce(max(id) + 50, 1), false) from opening;
alter table opening alter column id set default nextval('opening_id_seq');

alter table standing alter column id drop identity;
create sequence standing_id_seq increment by 50 owned by standing.id;
select setval('standing_id_seq', coalesce(max(id) + 50, 1), false) from standing;
alter table standing alter column id set default nextval('standing_id_seq');

alter table delivery alter column id drop identity;
create sequence delivery_id_seq increment by 50 owned by delivery.id;
select setval('delivery_id_seq', coalesce(max(id) + 50, 1), false) from delivery;
alter table delivery alter column id set default nextval('delivery_id_seq');

alter table announcement alter column id drop identity;
create sequence announcement_id_seq increment by 50 owned by announcement.id;
select setval('announcement_id_seq', coalesce(max(id) + 50, 1), false) from announcement;
alter table announcement alter column id set default nextval('announcement_id_seq');
