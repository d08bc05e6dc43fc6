-- What a system reported has the time at which it became so there; a try without an answer may still take effect.
alter table delivery
    add column reported_at timestamptz,
    add column doubtful boolean not null default false;

update delivery set reported_at = last_answer_at where last_answer in ('put on there', 'taken off there');
