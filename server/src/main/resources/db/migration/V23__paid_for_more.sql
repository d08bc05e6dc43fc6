-- How many of each product an order has, in the order of its products; and of which of them more is paid for than opens.
alter table order_row add column quantities integer[] not null default '{}';
alter table order_row add column surplus text[] not null default '{}';
create index order_row_surplus on order_row (placed_at) where surplus <> '{}';

insert into scheduled_tasks (task_name, task_instance, execution_time, picked, version)
  select 'orders-anew', 'all', now(), false, 1 where exists (select 1 from fact where type = 'yoru.order.placed')
  on conflict do nothing;

-- What shops answered when they were asked to charge, each time.
create table charge_answer (
  order_id text not null references charge (order_id) on delete cascade,
  number integer not null,
  asked_at timestamptz not null,
  asked_by text not null,
  at timestamptz not null,
  state text not null,
  said text not null,
  primary key (order_id, number)
);
insert into charge_answer (order_id, number, asked_at, asked_by, at, state, said)
  select order_id, 0, asked_at, asked_by, answered_at, state, said from charge
  where answered_at is not null and state <> 'WAITING';
