-- Facts are no longer about orders alone. What holds some together (an order, a subscription, something given) is its
-- thing, if any; what of the rulebook they mention is kept so that a change of mapping finds whom it can concern.

alter table fact rename column order_key to thing;
alter table fact alter column thing drop not null;
update fact set thing = 'order ' || thing;
alter index fact_order rename to fact_thing;

alter table fact add column mentions text[] not null default '{}';
update fact set mentions = array(
    select distinct 'product ' || (line ->> 'product') from jsonb_array_elements(body -> 'data' -> 'lines') line)
  where type = 'yoru.order.placed';
create index fact_mentions on fact using gin (mentions);

create index fact_merged on fact (subject) where type = 'yoru.person.merged';
create index fact_merged_into on fact ((body -> 'data' ->> 'into')) where type = 'yoru.person.merged';
